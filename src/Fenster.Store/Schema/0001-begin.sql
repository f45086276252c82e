create table teacher (
    id            integer primary key,
    email         text    not null collate nocase unique,
    name          text    not null,
    password_hash text    not null,
    created_at    integer not null
);

create table media (
    hash       text    primary key,
    width      integer not null,
    height     integer not null,
    files      text    not null, -- stored sizes, smallest first: "480.jpg 960.jpg"
    created_at integer not null
) without rowid;

create table activity (
    id         integer primary key,
    teacher_id integer not null references teacher (id),
    title      text    not null,
    draft      text    not null, -- the activity as a JSON document
    version    integer not null, -- goes up by one with each save
    created_at integer not null,
    changed_at integer not null
);
create index activity_of_teacher on activity (teacher_id);

create table revision (
    id           integer primary key,
    activity_id  integer not null references activity (id),
    number       integer not null,
    document     text    not null,
    published_at integer not null,
    unique (activity_id, number)
);

create table publication (
    id          integer primary key,
    activity_id integer not null unique references activity (id),
    revision_id integer not null references revision (id),
    code        text    not null unique,
    closed_at   integer
);

create table attempt (
    id             integer primary key,
    publication_id integer not null references publication (id),
    revision_id    integer not null references revision (id),
    name           text    not null,
    folded_name    text    not null, -- the name as it is compared
    secret_hash    text,             -- of the device that works on it; null when any may take it over
    seed           integer not null,
    started_at     integer not null,
    responses      text,             -- JSON, one response for each pane id; until handed in the moves tell
    handed_in_at   integer,
    score          text,             -- decimal; these four are null until handed in
    possible       text,
    grade          text,
    maximum_grade  text,
    unique (publication_id, folded_name)
);
create index attempt_of_device on attempt (secret_hash);

create table move (
    id         integer primary key,
    attempt_id integer not null references attempt (id),
    key        text    not null, -- made by the device; the same move sent twice has the same key
    pane       text    not null,
    move       text    not null,
    made_at    integer not null,
    unique (attempt_id, key)
);
