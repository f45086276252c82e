-- Results that were shown by the teacher's word, and taken back again.
alter table attempt add column saw_at integer;   -- when the student was first shown what waited for the word; null for never
alter table attempt add column taken_back text;  -- what the teacher said when it was taken back; null while it is not

-- What a second marker decides, who has not seen the first one's points. It counts only once both agree, and is only added to.
create table second_mark (
    id         integer primary key,
    attempt_id integer not null references attempt (id),
    pane       text    not null,
    target     text    not null,
    credit     text,                                   -- from 0 to 1; null where it is taken back
    parts      text,                                   -- the points of each criterion, as a JSON list; null for none
    teacher_id integer not null references teacher (id),
    at         integer not null
);
alter table award add column agreed integer not null default 0;   -- whether both markers agreed on it
alter table attempt add column differs integer not null default 0; -- at how many targets the two markers are apart
create index second_mark_of_attempt on second_mark (attempt_id);

-- How long the work of a class is kept after it was put away, in months; null for what the server's operator says.
alter table class add column keep_months integer;
