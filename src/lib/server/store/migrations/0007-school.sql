-- Whose Membrana this is: a school's, or one person's own. At most one row; none before the first start.
create table school (
	one boolean primary key default true check (one),
	kind text not null check (kind in ('school', 'own')),
	name text not null,
	made_at timestamptz not null default now()
);

-- Addresses that were printed for the first administrator, as hashes.
create table first_start (
	token_hash text primary key,
	expires_at timestamptz not null
);

-- Nobody has a password before they came in for the first time.
alter table person alter column password_hash drop not null;
-- The school's own, out of its roster.
alter table person add column identifier text unique;
alter table person add column is_administrator boolean not null default false;
-- Gone from the roster: no way in, and everything of theirs is kept.
alter table person add column archived_at timestamptz;

alter table course add column identifier text unique;
alter table course add column time_zone text not null default 'UTC';
alter table course add column language text not null default 'en';
-- Rules that new rule sheets of the course begin with.
alter table course add column defaults jsonb not null default '{}';
alter table course add column version int not null default 1;
alter table course add column archived_at timestamptz;
-- A course of last year may have had the same code.
alter table course drop constraint course_code_key;
create unique index course_code on course (code) where archived_at is null;

-- 'own': writes the rules and answers them, in a course of nobody else's.
alter table enrolment drop constraint enrolment_role_check;
alter table enrolment add constraint enrolment_role_check check (role in ('teacher', 'student', 'own'));
alter table enrolment add column left_at timestamptz;
-- Who is in which course now.
create view enrolled as
	select e.course_id, e.person_id, e.role from enrolment e join person p on p.id = e.person_id
	where e.left_at is null and p.archived_at is null;

-- Ways in that work once: to a first password, or to a new one.
create table invitation (
	-- SHA-256 of the code in the link or on the slip.
	code_hash text primary key,
	person_id uuid not null references person on delete cascade,
	by text not null check (by in ('mail', 'slip')),
	made_by uuid references person on delete set null,
	made_at timestamptz not null default now(),
	expires_at timestamptz not null,
	used_at timestamptz
);
create index invitation_person on invitation (person_id);

alter table session add column id uuid not null default gen_random_uuid();
alter table session add column begun_at timestamptz not null default now();
-- The browser, as it calls itself.
alter table session add column browser text not null default '';
create index session_person on session (person_id);

-- Who did what, for administrators. Names as they were then.
create table deed (
	id bigint generated always as identity primary key,
	at timestamptz not null default now(),
	person_id uuid references person on delete set null,
	who text not null,
	what text not null
);

create table setting (
	name text primary key,
	value jsonb not null,
	changed_at timestamptz not null default now()
);

-- What was there before belongs to a school.
insert into school (kind, name) select 'school', 'School' where exists (select 1 from person);
