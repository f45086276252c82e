-- What the long lists read besides their one page: a teacher's starters, and the sums over a publication's work.
create index activity_starter on activity (teacher_id, is_starter, deleted_at, changed_at desc, id desc);

-- Decimals as numbers, to be summed up from the index alone.
alter table attempt add column score_number real generated always as (cast(score as real)) virtual;
alter table attempt add column possible_number real generated always as (cast(possible as real)) virtual;
create index attempt_sums on attempt (publication_id, deleted_at, handed_in_at, score_number, possible_number);
