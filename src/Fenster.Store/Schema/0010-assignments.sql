-- Classes: lists of names that belong to a teacher, or to several.
create table class (
    id          integer primary key,
    name        text    not null,
    language    text    not null, -- a BCP 47 tag: of the personal words and of the order of names
    created_at  integer not null,
    archived_at integer,
    deleted_at  integer
);
create table class_teacher (
    teacher_id integer not null references teacher (id),
    class_id   integer not null references class (id),
    primary key (teacher_id, class_id)
) without rowid;
create index class_teacher_of_class on class_teacher (class_id);

create table member (
    id          integer primary key,
    class_id    integer not null references class (id),
    name        text    not null,
    folded_name text    not null,            -- the name as it is compared
    word        text    not null,            -- two short words by which they come in
    extra_time  integer not null default 0,  -- in per cent of a time limit
    tags        text    not null default '', -- one a line
    added_at    integer not null,
    removed_at  integer
);
create unique index member_by_name on member (class_id, folded_name) where removed_at is null;
create unique index member_by_word on member (class_id, word);

-- An activity that is given to someone. What was published until now is each activity's first one.
create table assignment (
    id              integer primary key,
    activity_id     integer not null references activity (id),
    revision_id     integer not null references revision (id), -- that new attempts get
    code            text    not null unique,
    class_id        integer references class (id),      -- null for whoever has the code
    follows         integer references assignment (id), -- that it is a catch-up or a re-sit of
    created_at      integer not null,
    version         integer not null default 1,         -- goes up by one with each change
    opens_at        integer,
    closes_at       integer,
    time_limit      integer,                            -- in milliseconds
    attempts        integer default 1,                  -- that a student may begin; null for any number
    counts          text    not null default 'best',
    is_practice     integer not null default 0,
    joining         text    not null default 'freeNames',
    begins_together integer not null default 0,
    forgets_devices integer not null default 0,
    releases_at     integer,
    sites           text    not null default '',        -- one a line
    rules           text    not null default '{}',      -- words of its own, as a pane's in a document
    resit           text,
    ended_at        integer,                            -- by the teacher, for everybody
    begun_at        integer,                            -- for all who waited
    released_at     integer,
    deleted_at      integer
);
create index assignment_of_activity on assignment (activity_id, deleted_at);
create index assignment_of_class on assignment (class_id, deleted_at);
insert into assignment (id, activity_id, revision_id, code, created_at, ended_at)
select publication.id, publication.activity_id, publication.revision_id, publication.code, revision.published_at, publication.closed_at
from publication
join revision on revision.id = publication.revision_id;

create table pause (
    assignment_id integer not null references assignment (id),
    from_at       integer not null,
    until_at      integer,          -- null while it goes on
    primary key (assignment_id, from_at)
) without rowid;

-- Who may watch an assignment, let students in, pause and extend it in the place of its teacher, until a time.
create table substitute (
    assignment_id integer not null references assignment (id),
    teacher_id    integer not null references teacher (id),
    until_at      integer not null,
    primary key (teacher_id, assignment_id)
) without rowid;
create index substitute_of_assignment on substitute (assignment_id);

-- A student at an assignment: a member of its class, or a guest.
create table student (
    id            integer primary key,
    assignment_id integer not null references assignment (id),
    member_id     integer references member (id), -- null for a guest
    name          text    not null,
    folded_name   text    not null,
    secret_hash   text,                           -- of the device that they work on
    word          text,                           -- of a guest, to come back on another device
    state         text,                           -- absent or excused, by the teacher's word
    extra_time    integer,                        -- in per cent of the time limit; null for what the class says
    closes_at     integer,                        -- later than for the others
    ended_at      integer,                        -- by the teacher, for them alone
    joined_at     integer,                        -- null for a member of whom only the teacher has said something
    seen_at       integer,
    deleted_at    integer,
    unique (assignment_id, folded_name)
);
create unique index student_of_member on student (assignment_id, member_id) where member_id is not null and deleted_at is null;
create index student_of_device on student (secret_hash);
create index student_closing on student (assignment_id, closes_at) where closes_at is not null;
insert into student (id, assignment_id, name, folded_name, secret_hash, word, joined_at, deleted_at)
select id, publication_id, name, folded_name, secret_hash, word, started_at, deleted_at
from attempt;

create table sitting (
    id              integer primary key,
    assignment_id   integer not null references assignment (id),
    student_id      integer not null references student (id),
    number          integer not null,           -- among the student's attempts, from 1
    revision_id     integer not null references revision (id),
    rules           text    not null,           -- words of the assignment's own, as they were when it was begun
    seed            integer not null,
    started_at      integer not null,
    ends_at         integer,                    -- null while that is not known
    away            integer not null default 0, -- how long it was handed in before it was given back, in milliseconds
    version         integer not null default 0, -- how many moves it has; -1 for a log that was written before
    placed          integer not null default 0, -- how many targets have an answer
    late            integer not null default 0, -- how many moves came too late and wait for the teacher's word
    handed_in_at    integer,
    handed_in_by    text,                       -- student, time or teacher
    score           text,                       -- decimal; these are null until handed in
    possible        text,
    grade           text,
    maximum_grade   text,
    exact_grade     text,
    score_number    real,
    possible_number real,
    deleted_at      integer,
    unique (student_id, number)
);
insert into sitting (id, assignment_id, student_id, number, revision_id, rules, seed, started_at, ends_at, version, placed,
    handed_in_at, handed_in_by, score, possible, grade, maximum_grade, score_number, possible_number, deleted_at)
select attempt.id, publication_id, attempt.id, 1, attempt.revision_id, '{}', seed, started_at, assignment.ended_at, attempt.version, placed,
       handed_in_at, case when handed_in_at is null then null else 'student' end, score, possible, grade, maximum_grade,
       score_number, possible_number, attempt.deleted_at
from attempt
join assignment on assignment.id = publication_id;

create table handed (
    attempt_id integer primary key references sitting (id),
    responses  text    not null -- JSON, one response for each pane id
);
insert into handed (attempt_id, responses)
select attempt_id, responses
from response;
create table made (
    id         integer primary key,
    attempt_id integer not null references sitting (id),
    number     integer not null, -- within its attempt, from 1
    key        text,             -- made by the device; null for one that follows from another
    pane       text    not null,
    move       text    not null,
    made_at    integer not null
);
insert into made (id, attempt_id, number, key, pane, move, made_at)
select id, attempt_id, number, key, pane, move, made_at
from move;
drop table response;
drop table move;
drop table attempt;
drop table publication;
alter table sitting rename to attempt;
alter table handed rename to response;
alter table made rename to move;
create unique index move_of_attempt on move (attempt_id, number);
create index attempt_sums on attempt (assignment_id, deleted_at, handed_in_at, score_number, possible_number, late);
create index attempt_due on attempt (ends_at) where handed_in_at is null and deleted_at is null;
create index attempt_unread on attempt (id) where version = -1;

alter table attempt add column waits integer not null default 0; -- whether something of it waits for a person to mark it

-- Who owns an activity together with who began it.
create table activity_teacher (
    teacher_id  integer not null references teacher (id),
    activity_id integer not null references activity (id),
    primary key (teacher_id, activity_id)
) without rowid;
create index activity_teacher_of_activity on activity_teacher (activity_id);

alter table activity add column archived_at integer;

-- The school's shelf: what teachers lay out for all colleagues on this server.
alter table activity add column shelved_at integer;
alter table activity add column came_from text not null default ''; -- whose it was before it was taken from there
alter table activity add column language text not null default '';
alter table activity add column kinds text not null default '';     -- of its targets, as documents name them, with blanks around each
create index activity_on_shelf on activity (shelved_at) where shelved_at is not null;
update activity set search = null; -- the summaries are made anew
create index activity_by_title on activity (teacher_id, deleted_at, title collate nocase, id);

-- What arrived after the end, kept apart until the teacher says that it counts.
create table late_move (
    id          integer primary key,
    attempt_id  integer not null references attempt (id),
    key         text    not null,
    pane        text    not null,
    move        text    not null,
    received_at integer not null,
    unique (attempt_id, key)
);

-- What changed somebody's work or marks beside the student's own moves. Nothing of it is ever changed.
create table record (
    id            integer primary key,
    at            integer not null,
    teacher_id    integer not null,
    assignment_id integer not null,
    attempt_id    integer,           -- null for what concerns all
    kind          text    not null,  -- such as givenBack or lateCounted
    before        text,
    after         text
);
create index record_of_assignment on record (assignment_id, id);
create trigger record_stays before update on record
begin
    select raise(abort, 'A record is never changed.');
end;
