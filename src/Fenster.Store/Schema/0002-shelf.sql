-- Pictures that a teacher has brought in, to be used again.
create table shelf (
    teacher_id integer not null references teacher (id),
    hash       text    not null references media (hash),
    name       text    not null,
    added_at   integer not null,
    primary key (teacher_id, hash)
) without rowid;
