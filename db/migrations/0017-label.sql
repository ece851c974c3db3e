-- What stands on a logger's label, and whether its log-in is still the factory's. Never a password. The newest holds.
create table logger_label (
  station_id uuid not null,
  id uuid not null,
  logger_id uuid not null,
  registration_code text not null,
  -- Where it is registered upstream, in words; empty for nowhere.
  registered_at text not null,
  log_in text not null check (log_in in ('none', 'factory', 'changed')),
  said_at timestamptz not null,
  person_id uuid not null references app_user,
  primary key (station_id, id),
  foreign key (station_id, logger_id) references logger
);
grant select, insert on logger_label to outer_cairn_app;
create trigger mark after insert on logger_label for each row execute function mark_station();

-- The firmware a logger said it has, each time another was heard.
create table logger_firmware (
  station_id uuid not null,
  id uuid not null,
  logger_id uuid not null,
  version text not null,
  noted_at timestamptz not null,
  person_id uuid not null references app_user,
  primary key (station_id, id),
  foreign key (station_id, logger_id) references logger
);
grant select, insert on logger_firmware to outer_cairn_app;
create trigger mark after insert on logger_firmware for each row execute function mark_station();
