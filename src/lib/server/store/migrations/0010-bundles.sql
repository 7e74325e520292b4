-- A code for each person of a class, which stands for them where they are not to be known. Drawn at random.
create table answer_code (
	assignment_id uuid not null references assignment on delete cascade,
	person_id uuid not null references person on delete cascade,
	code text not null,
	primary key (assignment_id, person_id),
	unique (assignment_id, code)
);

-- Where names are hidden on a prepared page, and why somebody should look; who looked.
create table hidden_names (
	packet_id uuid not null references packet on delete cascade,
	page_id text not null,
	prepared_key text not null,
	boxes jsonb not null,
	look text,
	confirmed_by uuid references person,
	primary key (packet_id, page_id)
);

-- One question's answers of a class, or everything of an assignment ('bag'), made into files that can be made again.
create table bundle (
	id uuid primary key default gen_random_uuid(),
	assignment_id uuid not null references assignment on delete cascade,
	-- Null of a bag.
	question text,
	options jsonb not null,
	state text not null default 'making' check (state in ('making', 'unsure', 'ready', 'failed')),
	-- Names, sizes and hashes, and which codes are in which.
	files jsonb not null default '[]',
	-- Codes of those who did not answer.
	without jsonb not null default '[]',
	-- Pages whose names somebody should look through first.
	look int not null default 0,
	problem text,
	made_by uuid not null references person,
	made_at timestamptz not null default now()
);
create unique index bundle_of_question on bundle (assignment_id, coalesce(question, ''));
