-- Files that students brought into an attempt, under names that nobody can guess.
create table own_file (
    name       text    primary key,                          -- 64 hexadecimal digits
    attempt_id integer not null references attempt (id),
    at         integer not null,
    width      integer not null,                             -- 0 of a sound
    height     integer not null,
    files      text    not null,                             -- as those of media
    bytes      integer not null                              -- of all of them
) without rowid;
create index own_file_of_attempt on own_file (attempt_id);

-- Pictures of students that a teacher shows to their class.
create table gallery (
    assignment_id integer primary key references assignment (id),
    opened_at     integer not null,
    until         integer not null,
    shows_names   integer not null
);
create table gallery_piece (
    assignment_id integer not null references gallery (assignment_id),
    attempt_id    integer not null references attempt (id),
    pane          text    not null,
    place         integer not null,                          -- in an order that nobody can tell anything from
    withdrawn_at  integer,
    primary key (assignment_id, attempt_id, pane)
) without rowid;
create index gallery_piece_of_attempt on gallery_piece (attempt_id);
-- Under which other names the class gets the files of a piece: they lead nowhere once it is withdrawn.
create table gallery_file (
    name          text    primary key,
    file          text    not null references own_file (name),
    assignment_id integer not null,
    attempt_id    integer not null,
    pane          text    not null
) without rowid;
create index gallery_file_of_piece on gallery_file (assignment_id, attempt_id, pane);
