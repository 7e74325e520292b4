-- Where the lines lie of a page of which only their beginnings were read: they are not looked for again.
alter table reading add column lines jsonb;
