-- Everything that hangs on a station carries its id in its key, so that the database can later be
-- spread by station. Ids are UUIDv7 made by the caller; small integer keys live only in reading.

create table app_user (
  id uuid primary key,
  name text not null unique,
  initials text not null,
  role text not null check (role in ('viewer', 'technician', 'reviewer', 'administrator')),
  password_hash text not null,
  disabled_at timestamptz,
  created_at timestamptz not null default now()
);

create table session (
  token_hash bytea primary key,
  user_id uuid not null references app_user,
  created_at timestamptz not null default now(),
  expires_at timestamptz not null,
  revoked_at timestamptz
);

create table sign_in_rate (
  key varchar(255) primary key,
  points integer not null default 0,
  expire bigint
);

create table idempotency (
  key uuid primary key,
  user_id uuid not null references app_user,
  route text not null,
  request_hash text not null,
  begun_at timestamptz not null default now(),
  status smallint,
  answer jsonb
);

create table site (
  id uuid primary key,
  name text not null unique,
  zone text not null,
  note text not null default ''
);

create table station (
  id uuid primary key,
  key integer generated always as identity unique,
  site_id uuid not null references site,
  code text not null unique,
  name text not null,
  cautions jsonb not null default '[]'
);

create table logger (
  station_id uuid not null references station,
  id uuid not null,
  model text not null,
  serial text not null unique,
  address text not null,
  utc_offset_minutes smallint not null,
  supply_voltage real not null check (supply_voltage > 0),
  primary key (station_id, id)
);

create table port (
  station_id uuid not null,
  id uuid not null,
  logger_id uuid not null,
  name text not null,
  gateway_address text not null,
  framing text not null check (framing in ('rtu', 'tcp')),
  baud integer not null check (baud between 300 and 921600),
  data_bits smallint not null check (data_bits in (7, 8)),
  parity text not null check (parity in ('none', 'even', 'odd')),
  stop_bits smallint not null check (stop_bits in (1, 2)),
  primary key (station_id, id),
  foreign key (station_id, logger_id) references logger
);

create table terminal (
  station_id uuid not null,
  id uuid not null,
  port_id uuid not null,
  label text not null,
  signal text not null,
  primary key (station_id, id),
  unique (station_id, port_id, label),
  foreign key (station_id, port_id) references port
);

-- A sensor is the thing with a serial number; it moves between stations, so it hangs on none.
create table sensor (
  id uuid primary key,
  model_code text not null,
  serial text not null unique
);

create table installation (
  station_id uuid not null references station,
  id uuid not null,
  sensor_id uuid not null references sensor,
  port_id uuid not null,
  bus_id smallint not null check (bus_id between 1 and 247),
  zone_name text not null,
  cable_length real not null check (cable_length >= 0),
  cable_resistance real not null check (cable_resistance >= 0),
  from_at timestamptz not null,
  until_at timestamptz,
  primary key (station_id, id),
  foreign key (station_id, port_id) references port,
  check (until_at is null or until_at > from_at)
);
create unique index installation_one_id_per_port on installation (station_id, port_id, bus_id) where until_at is null;
create unique index installation_one_place_per_sensor on installation (sensor_id) where until_at is null;

create table lead (
  station_id uuid not null,
  id uuid not null,
  installation_id uuid not null,
  terminal_id uuid not null,
  colour text not null,
  signal text not null,
  primary key (station_id, id),
  unique (station_id, installation_id, colour),
  foreign key (station_id, installation_id) references installation,
  foreign key (station_id, terminal_id) references terminal
);

create table channel (
  station_id uuid not null references station,
  id uuid not null,
  key integer generated always as identity unique,
  logger_id uuid not null,
  number smallint not null check (number between 1 and 64),
  quantity text not null,
  zone_name text not null,
  check_every_days smallint not null default 180 check (check_every_days between 1 and 3650),
  primary key (station_id, id),
  unique (station_id, logger_id, number),
  foreign key (station_id, logger_id) references logger
);

-- Which register of which installation feeds a channel, from when until when.
create table mapping (
  station_id uuid not null,
  id uuid not null,
  channel_id uuid not null,
  installation_id uuid not null,
  from_at timestamptz not null,
  until_at timestamptz,
  primary key (station_id, id),
  foreign key (station_id, channel_id) references channel,
  foreign key (station_id, installation_id) references installation
);
create unique index mapping_one_source on mapping (station_id, channel_id) where until_at is null;

-- Staged settings. Written only when the logger, read back, held exactly these.
create table setting_revision (
  station_id uuid not null,
  id uuid not null,
  channel_id uuid not null,
  revision integer not null check (revision > 0),
  settings jsonb not null,
  staged_at timestamptz not null default now(),
  staged_by uuid not null references app_user,
  written_at timestamptz,
  read_back jsonb,
  discarded_at timestamptz,
  primary key (station_id, id),
  unique (station_id, channel_id, revision),
  foreign key (station_id, channel_id) references channel
);

create table reference_instrument (
  id uuid primary key,
  name text not null,
  model text not null,
  serial text not null unique,
  quantities jsonb not null,
  calibrated_on date not null,
  due_on date not null,
  link text,
  retired_at timestamptz,
  check (due_on > calibrated_on)
);

create table reference_check (
  station_id uuid not null,
  id uuid not null,
  channel_id uuid not null,
  installation_id uuid not null,
  temperature_channel_id uuid,
  instrument_id uuid not null references reference_instrument,
  plan jsonb not null,
  opened_at timestamptz not null,
  opened_by uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  result jsonb,
  concluded_at timestamptz,
  outcome text check (outcome in ('agree', 'adjusted', 'left-outside', 'does-not-converge', 'not-settled', 'abandoned')),
  closed_at timestamptz,
  closing_difference double precision,
  primary key (station_id, id),
  foreign key (station_id, channel_id) references channel,
  foreign key (station_id, installation_id) references installation,
  check ((outcome is null) = (closed_at is null))
);
create unique index reference_check_one_open on reference_check (station_id, channel_id) where closed_at is null;

create table check_reading (
  station_id uuid not null,
  id uuid not null,
  check_id uuid not null,
  phase text not null check (phase in ('as-found', 'verification')),
  round smallint not null check (round >= 0),
  occurred_at timestamptz not null,
  recorded_at timestamptz not null default now(),
  recorded_by uuid not null references app_user,
  sensor_value double precision not null,
  reference_value double precision not null,
  sensor_temperature double precision,
  reference_temperature double precision,
  difference double precision not null,
  settling jsonb not null,
  entered jsonb not null,
  excluded_at timestamptz,
  excluded_reason text,
  primary key (station_id, id),
  foreign key (station_id, check_id) references reference_check
);

create table device_action (
  station_id uuid not null references station,
  id uuid not null,
  line text not null,
  kind text not null,
  channel_id uuid,
  installation_id uuid,
  intent jsonb not null,
  intended_at timestamptz not null default now(),
  person_id uuid not null references app_user,
  state text not null default 'intent' check (state in ('intent', 'done', 'failed', 'unknown')),
  outcome jsonb,
  settled_at timestamptz,
  primary key (station_id, id),
  check ((state in ('done', 'failed')) = (settled_at is not null))
);
create index device_action_open on device_action (station_id) where state in ('intent', 'unknown');
create index device_action_recent on device_action (station_id, intended_at desc);

-- Two web processes share one half-duplex line: whoever holds the lease may talk.
create table port_lease (
  line text primary key,
  holder uuid not null,
  until timestamptz not null
);

create table adjustment (
  station_id uuid not null,
  id uuid not null,
  check_id uuid not null,
  channel_id uuid not null,
  installation_id uuid not null,
  place text not null check (place in ('device', 'record')),
  round smallint not null check (round > 0),
  mode text not null check (mode in ('absolute', 'added')),
  entered double precision not null,
  previous double precision not null,
  resulting double precision not null,
  read_at_entry double precision not null,
  device_action_id uuid,
  effective_at timestamptz not null,
  person_id uuid not null references app_user,
  primary key (station_id, id),
  -- One difference is taken out once: in the device or in the record, never both.
  unique (station_id, check_id, round),
  foreign key (station_id, check_id) references reference_check,
  foreign key (station_id, device_action_id) references device_action,
  check ((place = 'device') = (device_action_id is not null))
);

-- Dated layers over the record; logged values never change.
create table layer (
  station_id uuid not null references station,
  id uuid not null,
  channel_id uuid not null,
  kind text not null check (kind in ('flag', 'off-line', 'correction', 'approval', 'clock')),
  from_at timestamptz not null,
  until_at timestamptz,
  parameters jsonb not null default '{}',
  reason text not null check (reason <> ''),
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  revokes uuid,
  primary key (station_id, id),
  foreign key (station_id, channel_id) references channel,
  foreign key (station_id, revokes) references layer,
  check (until_at is null or until_at >= from_at)
);
create index layer_of_channel on layer (station_id, channel_id, from_at);

create table visit (
  station_id uuid not null references station,
  id uuid not null,
  opened_at timestamptz not null,
  opened_by uuid not null references app_user,
  closed_at timestamptz,
  primary key (station_id, id)
);
create unique index visit_one_open on visit (station_id, opened_by) where closed_at is null;

create table field_book_line (
  station_id uuid not null references station,
  id uuid not null,
  visit_id uuid,
  channel_id uuid,
  occurred_at timestamptz not null,
  recorded_at timestamptz not null default now(),
  person_id uuid not null references app_user,
  kind text not null,
  text text not null check (text <> ''),
  sum text,
  primary key (station_id, id),
  foreign key (station_id, visit_id) references visit
);
create index field_book_by_time on field_book_line (station_id, occurred_at desc);
create index field_book_all_by_time on field_book_line (occurred_at desc);

create table operation (
  id uuid primary key,
  station_id uuid not null references station,
  kind text not null,
  person_id uuid not null references app_user,
  state text not null check (state in ('running', 'done', 'failed', 'cancelled')),
  progress real not null default 0,
  message text not null default '',
  result jsonb,
  begun_at timestamptz not null default now(),
  beat_at timestamptz not null default now(),
  cancel_asked_at timestamptz,
  ended_at timestamptz
);
create unique index operation_one_running on operation (station_id, kind) where state = 'running';

create table clock_comparison (
  station_id uuid not null,
  id uuid not null,
  logger_id uuid not null,
  clock_run smallint not null default 0,
  compared_at timestamptz not null,
  logger_time timestamptz not null,
  difference double precision not null,
  uncertainty double precision not null,
  primary key (station_id, id),
  foreign key (station_id, logger_id) references logger
);
create index clock_comparison_recent on clock_comparison (station_id, logger_id, compared_at desc);

create table collection (
  station_id uuid not null,
  id uuid not null,
  logger_id uuid not null,
  clock_run smallint not null default 0,
  collected_at timestamptz not null,
  from_stamp timestamptz,
  until_stamp timestamptz,
  stored integer not null,
  known integer not null,
  conflicting integer not null,
  primary key (station_id, id),
  foreign key (station_id, logger_id) references logger
);
create index collection_recent on collection (station_id, logger_id, collected_at desc);

-- What the logger logged: narrow and append-only. `at` is the logger's own stamp.
create table reading (
  station_key integer not null,
  channel_key integer not null,
  at timestamptz not null,
  clock_run smallint not null,
  value double precision not null,
  primary key (station_key, channel_key, at, clock_run)
) partition by range (at);

create table reading_rollup (
  station_key integer not null,
  channel_key integer not null,
  width integer not null check (width in (3600, 86400)),
  bucket timestamptz not null,
  n integer not null,
  sum double precision not null,
  min double precision not null,
  max double precision not null,
  first double precision not null,
  last double precision not null,
  sin_sum double precision not null,
  cos_sum double precision not null,
  primary key (station_key, channel_key, width, bucket)
);

create table audit (
  id bigint generated always as identity primary key,
  at timestamptz not null default now(),
  person_id uuid references app_user,
  action text not null,
  station_id uuid,
  subject jsonb not null default '{}'
);

-- The application may not create tables, yet new years of record need their partition.
create function ensure_reading_partition(year integer) returns void
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  if year < 1950 or year > 2200 then
    raise exception 'year % is outside 1950–2200', year;
  end if;
  perform pg_advisory_xact_lock(4711, year);
  execute format(
    'create table if not exists reading_y%s partition of reading for values from (%L) to (%L)',
    year, make_timestamptz(year, 1, 1, 0, 0, 0, 'UTC'), make_timestamptz(year + 1, 1, 1, 0, 0, 0, 'UTC'));
end $$;
revoke all on function ensure_reading_partition(integer) from public;

-- Append-only by privilege: readings, layers and audit can be added to, nothing more.
grant usage on schema public to outer_cairn_app;
grant execute on function ensure_reading_partition(integer) to outer_cairn_app;
grant select, insert on reading, layer, audit, adjustment, field_book_line, clock_comparison, collection,
  mapping, lead, terminal, sensor to outer_cairn_app;
grant select, insert, update on app_user, session, site, station, logger, port, installation, channel,
  setting_revision, reference_instrument, reference_check, check_reading, device_action, visit, operation,
  reading_rollup to outer_cairn_app;
grant select, insert, update, delete on sign_in_rate, idempotency, port_lease to outer_cairn_app;
grant update (until_at) on mapping to outer_cairn_app;
