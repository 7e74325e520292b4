-- The browser's own key of a file: however often the file is sent, it is one source.
alter table source add column client_key text;
create unique index source_client_key on source (packet_id, client_key);
-- The page behind which a file's pages are placed; '' is the start, null the end.
alter table source add column after_page text;
-- What the file's picture takes the place of: a page, or 'key:' and the client key of another source.
alter table source add column replaces text;
alter table source drop constraint source_state_check;
alter table source add constraint source_state_check check (state in ('waiting', 'ready', 'refused', 'repeat'));

-- The browser's own key of an edit: sent again after a lost answer, it is not carried out again.
alter table change add column edit_key text;
create unique index change_edit_key on change (packet_id, edit_key);

-- A link by which a phone adds pages to one packet without signing in.
create table phone_link (
	id uuid primary key default gen_random_uuid(),
	packet_id uuid not null references packet on delete cascade,
	-- Who showed the code: pages that come through the link are theirs.
	person_id uuid not null references person on delete cascade,
	-- SHA-256 of the token in the address: a copy of this table opens nothing.
	token_hash text not null unique,
	expires_at timestamptz not null,
	ended_at timestamptz,
	made_at timestamptz not null default now()
);
create index phone_link_packet on phone_link (packet_id);
alter table source add column phone_link_id uuid references phone_link on delete set null;
alter table source add column brought_by uuid references person;

-- A file out of a ZIP has its place between the ZIP and the next file.
alter table source alter column place type float8;
