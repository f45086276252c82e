alter table teacher add column role text not null default 'teacher'; -- or 'administrator'
alter table teacher add column left_at integer;                      -- null while they teach here
alter table teacher add column link_hash text;                       -- of a link for a forgotten password; null for none
alter table teacher add column link_until integer;
update teacher set role = 'administrator' where id = (select min(id) from teacher);

-- Where a teacher is signed in. Signing out ends it here, whatever a browser still keeps.
create table session (
    hash       text    primary key, -- of the secret that the browser has
    teacher_id integer not null references teacher (id),
    began_at   integer not null
) without rowid;
create index session_of_teacher on session (teacher_id);

-- One line that is written to see whether writing works.
create table written (
    at integer not null
);
insert into written (at) values (0);
