-- The moves of an attempt are numbered; those that follow from another one have no key of their own.
-- A log that was written before is taken apart when it is first read: see Upgrades.
create table numbered_move (
    attempt_id integer not null references attempt (id),
    number     integer not null, -- from 1
    key        text,             -- made by the device; the same move sent twice has the same key
    pane       text    not null,
    move       text    not null,
    made_at    integer not null,
    primary key (attempt_id, number)
) without rowid;
insert into numbered_move (attempt_id, number, key, pane, move, made_at)
select attempt_id, row_number() over (partition by attempt_id order by id), key, pane, move, made_at
from move;
drop table move;
alter table numbered_move rename to move;
create unique index move_by_key on move (attempt_id, key) where key is not null;

-- What was handed in, apart from the lines that lists are made of.
create table response (
    attempt_id integer primary key references attempt (id),
    responses  text    not null -- JSON, one response for each pane id
);
insert into response (attempt_id, responses)
select id, responses
from attempt
where responses is not null;
alter table attempt drop column responses;

alter table attempt add column version integer not null default 0; -- how many moves it has; -1 for a log that was written before
alter table attempt add column placed integer not null default 0;  -- how many targets have an answer
alter table attempt add column share real;                         -- score ÷ possible, to sort by; null until handed in
alter table attempt add column word text;                          -- lets another device in that knows it; null for none
alter table attempt add column deleted_at integer;
update attempt set version = -1;
create index attempt_by_name on attempt (publication_id, folded_name);
create index attempt_by_hand_in on attempt (publication_id, handed_in_at);

-- What lists show of an activity, kept with each save.
alter table activity add column private_name text not null default '';
alter table activity add column is_starter integer not null default 0;
alter table activity add column media text;                  -- of its first picture
alter table activity add column alt_text text not null default '';
alter table activity add column panes integer not null default 0;
alter table activity add column targets integer not null default 0;
alter table activity add column search text;                 -- all that a search looks at; null until it is first made
alter table activity add column deleted_at integer;
create index activity_by_change on activity (teacher_id, deleted_at, changed_at desc, id desc);

create table activity_subject (
    teacher_id  integer not null,
    subject     text    not null collate nocase,
    activity_id integer not null references activity (id),
    primary key (teacher_id, subject, activity_id)
) without rowid;

-- Which activities show or play a file, in their draft, an earlier state of it or a revision.
create table media_use (
    hash        text    not null,
    activity_id integer not null references activity (id),
    is_shown    integer not null, -- whether it is shown or played, not only what a prepared picture was made from
    primary key (hash, activity_id)
) without rowid;
create index media_use_of_activity on media_use (activity_id);

-- Who brought a file in: it answers to them alone until an activity shows it.
create table media_owner (
    hash       text    not null references media (hash),
    teacher_id integer not null references teacher (id),
    primary key (hash, teacher_id)
) without rowid;
insert into media_owner (hash, teacher_id)
select hash, teacher_id
from shelf
union
select media.hash, activity.teacher_id
from media
join activity on instr(activity.draft, media.hash) > 0
    or exists (select 1 from revision where revision.activity_id = activity.id and instr(revision.document, media.hash) > 0);

-- What a draft was: the last state in each ten minutes in which it was saved, and each that was gone back from.
create table kept_version (
    activity_id integer not null references activity (id),
    saved_at    integer not null,
    slot        integer not null, -- tens of minutes since 1970
    document    text    not null,
    title       text,             -- this and what follows is what a list shows; null until it is first made
    panes       integer not null default 0,
    targets     integer not null default 0,
    can_be_seen integer not null default 0,
    is_kept     integer not null default 0, -- whether it stays whatever is saved in the same ten minutes
    primary key (activity_id, saved_at)
) without rowid;
insert into kept_version (activity_id, saved_at, slot, document)
select activity_id, saved_at, slot, document
from draft_version
where true
on conflict do nothing;
drop table draft_version;
alter table kept_version rename to draft_version;
