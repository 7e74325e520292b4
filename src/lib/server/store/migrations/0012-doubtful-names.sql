-- Where on a page something may be a name or may be none: shown to whoever looks whether all names are hidden.
alter table hidden_names add column doubtful jsonb not null default '[]';
