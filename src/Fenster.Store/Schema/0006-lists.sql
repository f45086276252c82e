-- What the long lists read besides their one page: a teacher's starters, and the sums over a publication's work.
create index activity_starter on activity (teacher_id, is_starter, deleted_at, changed_at desc, id desc);

-- Score and possible points as numbers, to be summed up from the index alone.
alter table attempt add column score_number real;
alter table attempt add column possible_number real;
update attempt set score_number = cast(score as real), possible_number = cast(possible as real);
create index attempt_sums on attempt (publication_id, deleted_at, handed_in_at, score_number, possible_number);
alter table attempt drop column share; -- nothing reads it

-- What an upgrade has left to work out: each start asks for it, and finds nothing without reading all there is.
create index activity_unread on activity (id) where search is null;
create index draft_version_unread on draft_version (activity_id) where title is null;
create index attempt_unread on attempt (id) where version = -1;
