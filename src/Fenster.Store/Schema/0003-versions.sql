-- What a draft was: the last state in each ten minutes in which it was saved.
create table draft_version (
    activity_id integer not null references activity (id),
    slot        integer not null, -- tens of minutes since 1970
    document    text    not null,
    saved_at    integer not null,
    primary key (activity_id, slot)
) without rowid;
