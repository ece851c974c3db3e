-- Readings that a handheld kept by itself, without a site: brought in from its list, and assigned later.
create table handheld_reading (
  id uuid primary key,
  list_id uuid not null,
  file_name text not null,
  instrument_id uuid references reference_instrument,
  quantity text not null,
  entered double precision not null,
  unit text not null,
  -- In the quantity's base unit.
  value double precision not null,
  read_at timestamptz not null,
  label text not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  -- The same list brought in again is known.
  constraint handheld_reading_once unique nulls not distinct (instrument_id, quantity, read_at, entered)
);
create table handheld_assignment (
  station_id uuid not null references station,
  id uuid not null,
  reading_id uuid not null references handheld_reading,
  channel_id uuid,
  assigned_at timestamptz not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  taken_back_at timestamptz,
  taken_back_by uuid references app_user,
  taken_back_reason text,
  primary key (station_id, id),
  foreign key (station_id, channel_id) references channel,
  check (num_nulls(taken_back_at, taken_back_by, taken_back_reason) in (0, 3))
);
-- A reading belongs to one place at a time.
create unique index handheld_assignment_of_reading on handheld_assignment (reading_id) where taken_back_at is null;
create index handheld_reading_by_time on handheld_reading (read_at desc);
grant select, insert on handheld_reading, handheld_assignment to outer_cairn_app;
grant update (taken_back_at, taken_back_by, taken_back_reason) on handheld_assignment to outer_cairn_app;
