-- When a teacher last looked at the board of an assignment: what came in since is new to them.
create table looked (
	assignment_id uuid not null references assignment on delete cascade,
	person_id uuid not null references person on delete cascade,
	at timestamptz not null default now(),
	primary key (assignment_id, person_id)
);
