-- One judgement: the findings of every station, kept as they were derived, and what follows from them at
-- each instant. All of it is a cache: whatever changes a fact leaves a mark, and the next reader derives
-- the station anew. Marks are only added, so that two writers never wait for each other over them.

create table standing_mark (
  id bigint generated always as identity primary key,
  station_id uuid not null references station
);
create index standing_mark_of_station on standing_mark (station_id);

create table finding (
  station_id uuid not null references station,
  number smallint not null,
  code text not null,
  subject_kind text not null check (subject_kind in ('station', 'logger', 'installation', 'channel')),
  subject_id uuid not null,
  who text not null,
  stone text not null,
  state text not null check (state in ('missing', 'displaced')),
  weight smallint not null,
  -- It holds from one instant until another; the end is outside.
  from_at timestamptz not null,
  until_at timestamptz not null,
  text text not null,
  next text not null,
  bring jsonb not null,
  place_at timestamptz,
  channels jsonb not null,
  primary key (station_id, number)
);

-- A channel's word over all time: the stretch that holds an instant is its standing then.
create table channel_word (
  station_id uuid not null,
  channel_id uuid not null,
  from_at timestamptz not null,
  until_at timestamptz not null,
  word text not null,
  weight smallint not null,
  reason text not null,
  place_at timestamptz,
  -- Station and channel as people read a list: what is equally bad stands in this order.
  place text not null,
  primary key (station_id, channel_id, from_at),
  foreign key (station_id, channel_id) references channel
);

create index channel_word_order on channel_word (weight desc, place);
-- How many channels have each word is counted with every page of the list.
create index channel_word_count on channel_word (word, from_at, until_at);

create table station_urgency (
  station_id uuid not null references station,
  from_at timestamptz not null,
  until_at timestamptz not null,
  heaviest smallint not null,
  total integer not null,
  primary key (station_id, from_at)
);

delete from channel_standing;
alter table channel_standing
  add column station_code text not null, add column station_name text not null, add column site text not null,
  add column quantity text not null,
  drop column version, drop column computed_at, drop column word, drop column weight, drop column reason,
  drop column place_at, drop column check_due_at;

-- Every fact that a finding may rest on leaves its mark in the transaction that changes it; a channel that
-- should agree with one of this station is judged by its record too.
create function mark_station() returns trigger language plpgsql as $$
begin
  insert into standing_mark (station_id) values (new.station_id);
  insert into standing_mark (station_id)
    select distinct station_id from twin
     where other_station_id = new.station_id and station_id <> new.station_id and ended_at is null;
  return null;
end $$;
create function mark_stations() returns trigger language plpgsql as $$
begin
  insert into standing_mark (station_id) select distinct station_id from changed;
  insert into standing_mark (station_id)
    select distinct t.station_id from twin t join changed c on t.other_station_id = c.station_id
     where t.station_id <> c.station_id and t.ended_at is null;
  return null;
end $$;

create trigger mark after insert on layer referencing new table as changed
  for each statement execute function mark_stations();
create trigger mark after insert or update on collection for each row execute function mark_station();
create trigger mark after insert or update of state on record_import
  for each row when (new.state = 'complete') execute function mark_station();
create trigger mark after update of state on operation
  for each row when (new.state <> old.state) execute function mark_station();
create trigger mark after insert or update on device_action for each row execute function mark_station();
create trigger mark after insert or update on setting_revision for each row execute function mark_station();
create trigger mark after insert or update on reference_check for each row execute function mark_station();
create trigger mark after insert on adjustment for each row execute function mark_station();
create trigger mark after insert on clock_comparison for each row execute function mark_station();
create trigger mark after insert or update on installation for each row execute function mark_station();
create trigger mark after insert on lead for each row execute function mark_station();
create trigger mark after insert or update on mapping for each row execute function mark_station();
create trigger mark after insert or update on channel for each row execute function mark_station();
create trigger mark after insert or update on logger for each row execute function mark_station();
create trigger mark after insert or update on twin for each row execute function mark_station();

grant select, insert, delete on standing_mark, finding, channel_word, station_urgency to outer_cairn_app;
grant delete on channel_standing to outer_cairn_app;
insert into standing_mark (station_id) select id from station;
