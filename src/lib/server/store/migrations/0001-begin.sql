create table person (
	id uuid primary key default gen_random_uuid(),
	login text not null unique,
	given text not null,
	family text not null,
	password_hash text not null,
	created_at timestamptz not null default now()
);

create table session (
	-- SHA-256 of the token in the cookie: a copy of this table opens nothing.
	token_hash text primary key,
	person_id uuid not null references person on delete cascade,
	expires_at timestamptz not null
);

create table course (
	id uuid primary key default gen_random_uuid(),
	code text not null unique,
	title text not null
);

create table enrolment (
	course_id uuid not null references course on delete cascade,
	person_id uuid not null references person on delete cascade,
	role text not null check (role in ('teacher', 'student')),
	primary key (course_id, person_id)
);

create table assignment (
	id uuid primary key default gen_random_uuid(),
	course_id uuid not null references course,
	rule_sheet jsonb not null,
	version int not null default 1,
	created_by uuid not null references person,
	updated_at timestamptz not null default now()
);

create table packet (
	id uuid primary key default gen_random_uuid(),
	assignment_id uuid not null references assignment,
	person_id uuid not null references person,
	version int not null default 0,
	state jsonb not null,
	updated_at timestamptz not null default now(),
	unique (assignment_id, person_id)
);

create table change (
	packet_id uuid not null references packet on delete cascade,
	version int not null,
	kind text not null check (kind in ('edit', 'undo', 'redo', 'machine')),
	target int,
	change jsonb not null,
	inverse jsonb not null,
	person_id uuid references person,
	at timestamptz not null default now(),
	primary key (packet_id, version)
);

create table source (
	id uuid primary key default gen_random_uuid(),
	packet_id uuid not null references packet on delete cascade,
	upload_id text not null unique,
	name text not null,
	sha256 text not null,
	bytes bigint not null,
	-- When files arrive together, the order they were given in.
	batch bigint not null default 0,
	place int not null default 0,
	type text,
	state text not null default 'waiting' check (state in ('waiting', 'ready', 'refused')),
	problem text,
	taken_at text,
	received_at timestamptz not null default now()
);
create index source_packet on source (packet_id);

create table picture (
	source_id uuid not null references source on delete cascade,
	index int not null,
	facts jsonb,
	problem text,
	primary key (source_id, index)
);

-- What came out of preparing a page with certain settings; the key is a hash of all that went in.
create table prepared (
	key text primary key,
	facts jsonb not null,
	bytes int not null,
	made_at timestamptz not null default now()
);

create table file (
	id uuid primary key default gen_random_uuid(),
	packet_id uuid not null references packet on delete cascade,
	packet_version int not null,
	name text not null,
	type text not null check (type in ('pdf', 'zip')),
	sha256 text,
	bytes bigint,
	pages int,
	state text not null default 'making' check (state in ('making', 'ready', 'failed')),
	problem text,
	made_at timestamptz not null default now(),
	unique (packet_id, packet_version, name, type)
);

create table delivery (
	id uuid primary key default gen_random_uuid(),
	packet_id uuid not null references packet on delete cascade,
	file_id uuid not null references file,
	person_id uuid not null references person,
	idempotency_key text not null unique,
	state text not null default 'sending'
		check (state in ('sending', 'received', 'refused', 'recalling', 'recalled')),
	problem text,
	receipt jsonb,
	tries int not null default 0,
	handed_in_at timestamptz not null default now(),
	answered_at timestamptz
);
create index delivery_packet on delivery (packet_id, handed_in_at desc);
