-- A logger is launched and left alone: what it was told, how long that was said to last, when it hung where it
-- measures and when it was taken down. Its rows lie in the record like any others.
create table deployment (
  station_id uuid not null references station,
  id uuid not null,
  logger_id uuid not null,
  -- As the logger keeps it.
  description text not null,
  start text not null check (start in ('now', 'whole-interval', 'at', 'button')),
  start_at timestamptz,
  when_full text not null check (when_full in ('stops', 'overwrites')),
  stores_battery boolean not null,
  -- Channels stored and s between rows at the launch.
  channels integer not null check (channels > 0),
  store_every integer not null check (store_every > 0),
  expected jsonb not null,
  launched_at timestamptz not null,
  person_id uuid not null references app_user,
  -- Stopped, or launched anew.
  ended_at timestamptz,
  ended_by uuid references app_user,
  primary key (station_id, id),
  foreign key (station_id, logger_id) references logger,
  check ((start = 'at') = (start_at is not null)),
  check ((ended_at is null) = (ended_by is null))
);
create unique index deployment_one_open on deployment (station_id) where ended_at is null;
grant select, insert on deployment to outer_cairn_app;
grant update (ended_at, ended_by) on deployment to outer_cairn_app;

-- When it hung and when it was taken down; one said later takes the place of an earlier one.
create table deployment_stamp (
  station_id uuid not null,
  id uuid not null,
  deployment_id uuid not null,
  what text not null check (what in ('hung', 'taken-down')),
  at timestamptz not null,
  recorded_at timestamptz not null,
  person_id uuid not null references app_user,
  primary key (station_id, id),
  foreign key (station_id, deployment_id) references deployment
);
grant select, insert on deployment_stamp to outer_cairn_app;

-- One launch of a station's logger at a time, and none while the outcome of one is unknown.
create unique index device_action_one_launch on device_action (station_id)
  where settled_at is null and kind = 'launch';

-- How long it lasts bears on when somebody has to come.
create trigger mark after insert or update on deployment for each row execute function mark_station();
