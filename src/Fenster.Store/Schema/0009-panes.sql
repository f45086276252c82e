-- A draft whose panes are stored one by one names them in its list of panes by these numbers. Documents of before are whole.
create table draft_pane (
    id          integer primary key autoincrement, -- never used again, since what was read of a pane is remembered by it
    activity_id integer not null references activity (id),
    bytes       integer not null, -- of the document, as UTF-8
    document    text    not null,
    since       integer not null, -- the version of the draft that first had it
    until       integer           -- the version that first had it no more; null while the draft has it
);
create index draft_pane_of_activity on draft_pane (activity_id, until);

alter table draft_version add column version integer not null default 0; -- of the draft; 0 for those of before
create index draft_version_by_version on draft_version (activity_id, version);
