-- What people decide on a target of an attempt. It is only added to: of a target's rows the last one counts.
create table award (
    id         integer primary key,
    attempt_id integer not null references attempt (id),
    pane       text    not null,
    target     text    not null,
    credit     text,                                   -- from 0 to 1; null where the machine's counts again
    parts      text,                                   -- the points of each criterion, as a JSON list; null for none
    teacher_id integer not null references teacher (id),
    at         integer not null
);
create index award_of_attempt on award (attempt_id);

-- What people say to a student of an attempt. One that is taken back stays here.
create table remark (
    id           integer primary key,
    attempt_id   integer not null references attempt (id),
    pane         text,                                 -- null for the whole work
    target       text,                                 -- null for a spot, the pane or the whole
    x            real,                                 -- the spot, in picture units
    y            real,
    text         text    not null,
    teacher_id   integer not null references teacher (id),
    at           integer not null,
    withdrawn_at integer
);
create index remark_of_attempt on remark (attempt_id);

alter table attempt add column marked integer not null default 0; -- how often people have changed its marking
alter table attempt add column released_at integer;               -- for this student alone

-- What a teacher tells students while they work: a short note, or a spot to look at.
create table news (
    id            integer primary key,
    assignment_id integer not null references assignment (id),
    attempt_id    integer references attempt (id),       -- null for everybody
    text          text    not null,                      -- empty for a spot alone
    pane          text,                                  -- of the spot; null for none
    x             real,                                  -- in picture units
    y             real,
    teacher_id    integer not null references teacher (id),
    at            integer not null
);
create index news_of_assignment on news (assignment_id, id);
