-- Records from files, clock runs, quality tests, twins, and what is known of every channel at a glance.

-- A channel may be fed by files alone: nobody writes settings to it or checks it at a terminal.
alter table channel add column fed_by text not null default 'logger' check (fed_by in ('logger', 'file'));

create table record_import (
  station_id uuid not null references station,
  id uuid not null,
  person_id uuid not null references app_user,
  file_name text not null,
  bytes double precision not null check (bytes >= 0),
  signature text not null,
  plan jsonb not null,
  -- Set when the person was told that the values are unlike everything stored, and stands by them.
  confirmed boolean not null default false,
  declared_at timestamptz not null default now(),
  -- running, and nobody holds its advisory lock: absent.
  state text not null check (state in ('waiting', 'running', 'complete', 'absent')),
  ended_at timestamptz,
  message text not null default '',
  data_rows integer,
  stored integer,
  known integer,
  conflicting integer,
  refused integer,
  missing integer,
  from_at timestamptz,
  until_at timestamptz,
  primary key (station_id, id)
);
create index record_import_recent on record_import (station_id, declared_at desc);

-- What an import did not take, row by row: refused by the reader, or in conflict with what is stored.
create table import_issue (
  station_id uuid not null,
  import_id uuid not null,
  number integer not null,
  kind text not null check (kind in ('refused', 'conflict')),
  line integer not null,
  column_number smallint,
  text text not null,
  why text not null,
  primary key (station_id, import_id, number),
  foreign key (station_id, import_id) references record_import
);

-- Setting a logger's clock begins a new run; stamps of two runs may repeat honestly.
create table clock_run (
  station_id uuid not null,
  logger_id uuid not null,
  run smallint not null check (run > 0),
  set_at timestamptz not null,
  -- What the clock showed just before and just after.
  stamp_before timestamptz not null,
  stamp_after timestamptz not null,
  device_action_id uuid not null,
  person_id uuid not null references app_user,
  primary key (station_id, logger_id, run),
  foreign key (station_id, logger_id) references logger,
  foreign key (station_id, device_action_id) references device_action
);

-- Thresholds someone set for a channel; the newest counts, none means the defaults of its quantity.
create table quality_setting (
  station_id uuid not null,
  id uuid not null,
  channel_id uuid not null,
  thresholds jsonb not null,
  person_id uuid not null references app_user,
  set_at timestamptz not null default now(),
  primary key (station_id, id),
  foreign key (station_id, channel_id) references channel
);
create index quality_setting_recent on quality_setting (station_id, channel_id, set_at desc);

-- Two channels that should agree: a twin beside it, or a neighbour.
create table twin (
  station_id uuid not null,
  id uuid not null,
  channel_id uuid not null,
  other_station_id uuid not null,
  other_channel_id uuid not null,
  -- Largest mean difference that is no finding, base unit.
  tolerance double precision not null check (tolerance > 0),
  person_id uuid not null references app_user,
  set_at timestamptz not null default now(),
  ended_at timestamptz,
  primary key (station_id, id),
  foreign key (station_id, channel_id) references channel,
  foreign key (other_station_id, other_channel_id) references channel,
  check (channel_id <> other_channel_id)
);
create unique index twin_one on twin (station_id, channel_id) where ended_at is null;
create index twin_other on twin (other_station_id, other_channel_id) where ended_at is null;

-- Derived, and written anew whenever what it rests on changes: what the Verify list sorts by. Nothing
-- in it depends on the present; ages are reckoned when it is read. Whoever changes what it rests on
-- marks it in the same transaction (version up, computed_at -infinity); the next reader mends it.
create table channel_standing (
  station_id uuid not null,
  channel_id uuid not null,
  version integer not null default 0,
  computed_at timestamptz not null default '-infinity',
  name text not null default '',
  word text not null default 'empty',
  weight smallint not null default 0,
  reason text not null default '',
  place_at timestamptz,
  last_at timestamptz,
  last_value double precision,
  collected_at timestamptz,
  checked_at timestamptz,
  check_due_at timestamptz,
  difference double precision,
  difference_limit double precision,
  missing integer not null default 0,
  suspect integer not null default 0,
  failed integer not null default 0,
  twin_difference double precision,
  twin_limit double precision,
  clock_difference double precision,
  approved_from timestamptz,
  approved_until timestamptz,
  approved_by text,
  approved_at timestamptz,
  -- Why an approval no longer stands; null while it does.
  reopened text,
  primary key (station_id, channel_id),
  foreign key (station_id, channel_id) references channel
);
create index channel_standing_stale on channel_standing (station_id) where computed_at = '-infinity';
insert into channel_standing (station_id, channel_id) select station_id, id from channel;

create index layer_revoked on layer (station_id, revokes) where revokes is not null;

-- A new year is made apart and then attached, which neither waits for a running import nor stops a reader.
create or replace function ensure_reading_partition(year integer) returns void
language plpgsql security definer set search_path = public, pg_temp as $$
declare
  name text := 'reading_y' || year;
begin
  if year < 1950 or year > 2200 then
    raise exception 'year % is outside 1950–2200', year;
  end if;
  perform pg_advisory_xact_lock(4711, year);
  if to_regclass('public.' || name) is not null then
    return;
  end if;
  execute format('create table %I (like reading including all)', name);
  execute format('alter table reading attach partition %I for values from (%L) to (%L)',
    name, make_timestamptz(year, 1, 1, 0, 0, 0, 'UTC'), make_timestamptz(year + 1, 1, 1, 0, 0, 0, 'UTC'));
end $$;

grant select, insert on import_issue, clock_run, quality_setting to outer_cairn_app;
grant select, insert, update on record_import, twin, channel_standing to outer_cairn_app;
