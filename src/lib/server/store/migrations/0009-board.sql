-- What a board shows of a packet: how each question stands, and what is open. Of the same state as the findings.
alter table packet_findings add column summary jsonb;

-- A packet given back with reasons. It stands until something is handed in after it, or it is taken back.
create table packet_return (
	id uuid primary key default gen_random_uuid(),
	packet_id uuid not null references packet on delete cascade,
	-- The packet's version that was looked at.
	version int not null,
	reasons jsonb not null,
	words text not null default '',
	returned_by uuid not null references person,
	returned_at timestamptz not null default now(),
	taken_back_at timestamptz
);
create index packet_return_packet on packet_return (packet_id, returned_at desc);

-- More time than the rule sheet gives, for one person.
create table more_time (
	assignment_id uuid not null references assignment on delete cascade,
	person_id uuid not null references person on delete cascade,
	-- As in a rule sheet: a moment with its zone.
	due text not null,
	given_by uuid not null references person,
	given_at timestamptz not null default now(),
	primary key (assignment_id, person_id)
);
create index packet_assignment on packet (assignment_id);
