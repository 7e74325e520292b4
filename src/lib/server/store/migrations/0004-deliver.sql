-- What a prepared page weighs in other forms, by the page's key and the tones that were allowed.
create table weighed (
	key text not null,
	tones text not null,
	weights jsonb not null,
	made_at timestamptz not null default now(),
	primary key (key, tones)
);

alter table person add column email text;

-- How a file is handed in, and where to: an assignment of the portal, an address, a folder, with its name as it was
-- when it was chosen.
alter table delivery add column target text not null default 'portal' check (target in ('portal', 'mail', 'folder'));
alter table delivery add column destination jsonb not null default '{}';
-- The student's words and notes that go along.
alter table delivery add column comment text not null default '';
-- What it takes the place of once it is received.
alter table delivery add column replaces uuid references delivery;
-- When everything had gone out and only the answer was missing.
alter table delivery add column sent_at timestamptz;
alter table delivery add column next_try_at timestamptz;
-- Whoever works on a delivery claims it, so that two never send at once; a claim runs out by itself.
alter table delivery add column claimed_until timestamptz;
alter table delivery drop constraint delivery_state_check;
alter table delivery add constraint delivery_state_check
	check (state in ('sending', 'sent', 'received', 'refused', 'recalling', 'recalled', 'replaced'));
