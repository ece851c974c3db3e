-- Somebody talks on a serial line in the logger's place: who, since when, until when at the latest, and how its
-- polling is kept off meanwhile. What is recorded on the line in that time is not real.
create table line_session (
  station_id uuid not null references station,
  id uuid not null,
  port_id uuid not null,
  -- Its polling is held by the logger itself, or its pair is lifted.
  master text not null check (master in ('held', 'lifted')),
  -- Outputs of controllers that act on these sensors are in hand, and have to be given back.
  outputs_in_hand boolean not null,
  -- The off-line windows it opened.
  layers jsonb not null,
  begun_at timestamptz not null,
  until_at timestamptz not null,
  person_id uuid not null references app_user,
  ended_at timestamptz,
  ended_by uuid references app_user,
  primary key (station_id, id),
  foreign key (station_id, port_id) references port,
  check (until_at > begun_at),
  check ((ended_at is null) = (ended_by is null))
);
create unique index line_session_one_open on line_session (station_id, port_id) where ended_at is null;
grant select, insert on line_session to outer_cairn_app;
grant update (ended_at, ended_by) on line_session to outer_cairn_app;

-- The search for why a device does not answer: what it comes to follows from its steps.
create table recovery (
  station_id uuid not null references station,
  id uuid not null,
  installation_id uuid not null,
  begun_at timestamptz not null,
  person_id uuid not null references app_user,
  ended_at timestamptz,
  ended_by uuid references app_user,
  primary key (station_id, id),
  foreign key (station_id, installation_id) references installation,
  check ((ended_at is null) = (ended_by is null))
);
create unique index recovery_one_open on recovery (station_id, installation_id) where ended_at is null;
grant select, insert on recovery to outer_cairn_app;
grant update (ended_at, ended_by) on recovery to outer_cairn_app;
create table recovery_step (
  station_id uuid not null,
  recovery_id uuid not null,
  number integer not null check (number > 0),
  evidence jsonb not null,
  at timestamptz not null,
  person_id uuid not null references app_user,
  primary key (station_id, recovery_id, number),
  foreign key (station_id, recovery_id) references recovery
);
grant select, insert on recovery_step to outer_cairn_app;

-- A device is given another ID over the line; what hung there goes on hanging there.
grant update (bus_id, bus_address) on installation to outer_cairn_app;
-- One write on a line at a time, and none while the outcome of one is unknown.
create unique index device_action_one_bus_write on device_action (station_id, line)
  where settled_at is null and kind in ('bus-write', 'sdi-write', 'hold-polling');
