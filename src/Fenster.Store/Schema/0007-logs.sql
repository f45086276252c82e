-- The moves of all attempts in the order in which they were stored, so that those which are stored together lie together.
-- A log is only added to at the version that it was read at, by who has read all its keys: no key can come twice.
create table ordered_move (
    id         integer primary key,
    attempt_id integer not null references attempt (id),
    number     integer not null, -- within its attempt, from 1
    key        text,             -- made by the device; null for one that follows from another
    pane       text    not null,
    move       text    not null,
    made_at    integer not null
);
insert into ordered_move (attempt_id, number, key, pane, move, made_at)
select attempt_id, number, key, pane, move, made_at
from move
order by made_at, attempt_id, number;
drop table move;
alter table ordered_move rename to move;
create unique index move_of_attempt on move (attempt_id, number);
