-- A class's pile is worked on like a packet, by a teacher, and cut into packets.
alter table packet add column kind text not null default 'packet' check (kind in ('packet', 'stack'));
alter table packet drop constraint packet_assignment_id_person_id_key;
create unique index packet_of_person on packet (assignment_id, person_id) where kind = 'packet';
create unique index packet_stack on packet (assignment_id) where kind = 'stack';
