-- Counts everything that becomes known of a packet: who has seen it up to a number asks for what is newer.
alter table packet add column news bigint not null default 0;
-- What the keys of its pages were made by; another version of the pipeline or of the rule sheet makes others.
alter table packet add column keyed_by text;

-- By which keys what is known of a page is found. Follows the packet's state, and is made again from it.
create table packet_page (
	packet_id uuid not null references packet on delete cascade,
	page_id text not null,
	source_id uuid not null references source on delete cascade,
	source_page int not null,
	prepared_key text not null,
	reading_key text not null,
	-- Name of its tone, which tells what kind of picture it was made into.
	tone text not null,
	-- The packet's news when something of this page was last new.
	news bigint not null,
	primary key (packet_id, page_id)
);
create index packet_page_prepared on packet_page (prepared_key);
create index packet_page_reading on packet_page (reading_key);
create index packet_page_source on packet_page (source_id, source_page);
create index packet_page_news on packet_page (packet_id, news);

alter table source add column news bigint not null default 0;

-- Whether it is known which way a picture is up, and whether only the beginnings of a page's lines are known: told
-- without looking into what was found.
alter table picture add column turned boolean generated always as (facts -> 'readTurn' is not null) stored;
alter table reading add column starts_only boolean generated always as (reading -> 'startsOnly' is not null) stored;

-- What the rules say of a packet that do not look at the clock, as its owner is told it, and of what it was said.
create table packet_findings (
	packet_id uuid primary key references packet on delete cascade,
	version int not null,
	news bigint not null,
	sheet_version int not null,
	findings jsonb not null,
	checked_at timestamptz not null default now()
);
