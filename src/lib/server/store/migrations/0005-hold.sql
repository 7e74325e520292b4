-- A job that failed for good, to be shown where somebody looks and tried again when they say so.
create table trouble (
	id uuid primary key default gen_random_uuid(),
	packet_id uuid references packet on delete cascade,
	job text not null,
	-- What the job was given: asked for again, it gets the same.
	data jsonb not null,
	problem text not null,
	at timestamptz not null default now(),
	unique (job, data)
);
create index trouble_packet on trouble (packet_id);

-- Whose name stands on a page: for a reading and a roster, each by its hash.
create table page_name (
	reading_key text not null,
	roster_key text not null,
	-- null: the page carries no name.
	name jsonb,
	primary key (reading_key, roster_key)
);

create index source_brought_by on source (brought_by);

-- `unsure`: everything went out, the answer was lost, and sending it again could make a second; a person decides.
alter table delivery drop constraint delivery_state_check;
alter table delivery add constraint delivery_state_check check (
	state in ('sending', 'unsure', 'sent', 'received', 'refused', 'recalling', 'recalled', 'replaced')
);

-- Processes that work on jobs of this database, so that what a dead one held is taken up again.
create table process (
	id uuid primary key,
	seen_at timestamptz not null default now()
);
