-- Until when it was due for this person, where they had been given more time when it was handed in.
alter table delivery add column due text;
