-- Handheld meters: what each position of the dial shows, and how well.
create table meter (
  id uuid primary key,
  name text not null,
  model text not null,
  serial text not null unique,
  ranges jsonb not null,
  -- Null where it was never calibrated: then its maker's word is all there is.
  due_on date,
  person_id uuid not null references app_user,
  added_at timestamptz not null default now(),
  retired_at timestamptz
);

-- A sensor measured with a meter: the circuit as it was, what was read, what it came to.
create table bench_session (
  station_id uuid not null references station,
  id uuid not null,
  installation_id uuid not null,
  channel_id uuid not null,
  meter_id uuid not null references meter,
  -- Output, leads and what the logger's input brings, as they were.
  setup jsonb not null,
  opened_at timestamptz not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  ended_at timestamptz,
  ended_by uuid references app_user,
  -- An explanation by its id, or "undecided"; what it says in words, with its likelihood where there is one.
  outcome text,
  says text,
  likelihood double precision,
  primary key (station_id, id),
  foreign key (station_id, installation_id) references installation,
  foreign key (station_id, channel_id) references channel,
  check (num_nulls(ended_at, ended_by, outcome, says) in (0, 4))
);
create unique index bench_session_open on bench_session (station_id, installation_id) where ended_at is null;

create table bench_reading (
  station_id uuid not null,
  id uuid not null,
  session_id uuid not null,
  -- What was measured: between which points, on which position of the dial.
  measured jsonb not null,
  -- Null over the range, or where the logger shows no value.
  shows double precision,
  -- As it stood on the display.
  typed text not null,
  occurred_at timestamptz not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  primary key (station_id, id),
  foreign key (station_id, session_id) references bench_session
);
create index bench_reading_of_session on bench_reading (station_id, session_id, occurred_at);

grant select, insert on meter, bench_session, bench_reading to outer_cairn_app;
grant update (retired_at) on meter to outer_cairn_app;
grant update (ended_at, ended_by, outcome, says, likelihood) on bench_session to outer_cairn_app;
create trigger mark after insert or update on bench_session for each row execute function mark_station();
