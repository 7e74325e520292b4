-- What was read off a prepared page. The key is a hash of what the page is made of and of the labels looked for.
create table reading (
	key text primary key,
	reading jsonb not null,
	made_at timestamptz not null default now()
);
