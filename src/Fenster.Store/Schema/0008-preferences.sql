-- How a teacher reads their screens; null for as their browser says.
alter table teacher add column language text;  -- a BCP 47 tag
alter table teacher add column time_zone text; -- a name of the IANA time zone database
