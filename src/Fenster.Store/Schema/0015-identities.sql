-- Times that were stored as text, which no reader of times takes.
update student
set closes_at = cast(round((julianday(closes_at) - 2440587.5) * 86400000) as integer)
where typeof(closes_at) = 'text';
update student
set ended_at = cast(round((julianday(ended_at) - 2440587.5) * 86400000) as integer)
where typeof(ended_at) = 'text';

-- What names a row for whatever outlives it: 128 bits that never come again. Rows of before get theirs from their number and the time at
-- which they were made, so that a copy of before, brought up to date once more, gives them the same.
alter table activity add column identity text not null default '';
update activity set identity = printf('%016x%016x', id, created_at);
alter table class add column identity text not null default '';
update class set identity = printf('%016x%016x', id, created_at);
alter table assignment add column identity text not null default '';
update assignment set identity = printf('%016x%016x', id, created_at);
alter table revision add column identity text not null default '';
update revision set identity = printf('%016x%016x', id, published_at);
alter table attempt add column identity text not null default '';
update attempt set identity = printf('%016x%016x', id, started_at);
alter table student add column identity text not null default '';
update student
set identity = printf('%016x%016x', id, coalesce(joined_at, (select created_at from assignment where assignment.id = assignment_id)));
alter table member add column identity text not null default '';
update member set identity = printf('%016x%016x', id, added_at);

-- Goes up by one with whatever changes an attempt.
alter table attempt add column edition integer not null default 1;

-- Whether it is the attempt that counts for its student, or one of them; null while that is not worked out.
alter table attempt add column counts integer;
create index attempt_uncounted on attempt (assignment_id) where counts is null;

-- By what names are sorted, as the language of the class sorts them; null while that is not worked out. It holds for one version of the
-- platform's collation.
alter table student add column sort_key blob;
create index student_by_name on student (assignment_id, sort_key);
create index student_unsorted on student (id) where sort_key is null;
create table collation (
    version text not null
);

-- What is written and taken away again to see whether there is room for what people do.
create table room (
    filling blob
);

-- What lists count of people, from indexes alone.
drop index attempt_sums;
create index attempt_people on attempt (assignment_id, deleted_at, student_id, handed_in_at, counts, score_number, possible_number);
create index attempt_late on attempt (assignment_id) where late > 0;
create index attempt_waiting on attempt (assignment_id) where waits = 1;
create index attempt_differing on attempt (assignment_id) where differs > 0;
create index student_people on student (assignment_id, deleted_at, member_id, state);
create index student_away on student (assignment_id, id) where state is not null;
