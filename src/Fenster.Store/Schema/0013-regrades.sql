-- Changes of the key or the rules that were applied to work that was handed in. An undo is a regrade too.
create table regrade (
    id            integer primary key,
    assignment_id integer not null references assignment (id),
    at            integer not null,
    teacher_id    integer not null references teacher (id),
    reason        text    not null,
    from_revision integer not null references revision (id),
    to_revision   integer not null references revision (id),
    manner        text    not null,                          -- nobodyLoses or forAll
    undoes        integer references regrade (id)
);
create index regrade_of_assignment on regrade (assignment_id, id);
create table regrade_change (
    regrade_id   integer not null references regrade (id),
    attempt_id   integer not null references attempt (id),
    revision_id  integer not null,                           -- that it was marked by before
    before_score text    not null,
    after_score  text    not null,
    marked       integer not null,                           -- how often people had changed its marking then
    primary key (regrade_id, attempt_id)
) without rowid;
create index regrade_change_of_attempt on regrade_change (attempt_id);
