-- What a logger holds of itself: station ID, name, external sensors it listens to. Staged, written and read back like
-- the settings of a channel.
create table own_setting (
  station_id uuid not null,
  id uuid not null,
  logger_id uuid not null,
  revision integer not null check (revision > 0),
  settings jsonb not null,
  staged_at timestamptz not null,
  staged_by uuid not null references app_user,
  written_at timestamptz,
  read_back jsonb,
  discarded_at timestamptz,
  primary key (station_id, id),
  unique (station_id, logger_id, revision),
  foreign key (station_id, logger_id) references logger
);
grant select, insert on own_setting to outer_cairn_app;
grant update (written_at, read_back, discarded_at) on own_setting to outer_cairn_app;
create trigger mark after insert or update on own_setting for each row execute function mark_station();
create trigger closed before update on own_setting for each row
  when (old.written_at is not null or old.discarded_at is not null)
  execute function refuse_rewrite('revision', 'own_setting_written');

-- Whether a logger that has to be told keeps what it holds, each time that changed.
create table logger_keeping (
  station_id uuid not null,
  id uuid not null,
  logger_id uuid not null,
  kept boolean not null,
  noted_at timestamptz not null,
  person_id uuid not null references app_user,
  primary key (station_id, id),
  foreign key (station_id, logger_id) references logger
);
grant select, insert on logger_keeping to outer_cairn_app;
create trigger mark after insert on logger_keeping for each row execute function mark_station();

-- One write of a logger's own settings at a time, or storing of all, and none while the outcome of one is unknown.
create unique index device_action_one_own on device_action (station_id)
  where settled_at is null and kind in ('write-own', 'store-settings');

-- A device may derive its offset from the value that is told to be true; and an adjustment can be taken back.
alter table adjustment drop constraint adjustment_mode_check;
alter table adjustment add constraint adjustment_mode_check check
  (mode in ('absolute', 'added', 'true-value', 'stored-average', 'constant', 'accept', 'points'));
-- Entered by a person at the device: nothing was sent, and the device may not say what it held before and holds now.
alter table adjustment add column by_hand boolean not null default false;
alter table adjustment alter column previous drop not null;
alter table adjustment alter column resulting drop not null;
alter table adjustment add constraint adjustment_says check
  (by_hand or (previous is not null and resulting is not null));
do $$ begin
  execute (select format('alter table adjustment drop constraint %I', conname) from pg_constraint
    where conrelid = 'adjustment'::regclass and contype = 'c' and pg_get_constraintdef(oid) like '%device_action_id%');
end $$;
alter table adjustment add constraint adjustment_sent check
  ((place = 'device' and not by_hand) = (device_action_id is not null) and (place = 'device' or not by_hand));
alter table adjustment add column undoes uuid;
alter table adjustment add foreign key (station_id, undoes) references adjustment;
create unique index adjustment_undone_once on adjustment (station_id, undoes) where undoes is not null;

-- A part of a sensor that was replaced, with the coefficients it brought: what was checked before proves it no more.
create table part_change (
  station_id uuid not null,
  id uuid not null,
  installation_id uuid not null,
  part text not null,
  serial text not null,
  coefficients jsonb not null,
  -- Null where the sensor did not say what it held.
  previous jsonb,
  device_action_id uuid not null,
  changed_at timestamptz not null,
  person_id uuid not null references app_user,
  primary key (station_id, id),
  foreign key (station_id, installation_id) references installation,
  foreign key (station_id, device_action_id) references device_action
);
grant select, insert on part_change to outer_cairn_app;
create trigger mark after insert on part_change for each row execute function mark_station();

-- A data line of SDI-12 may have an adapter of its own on the network.
alter table port drop constraint port_framing_check;
alter table port add constraint port_framing_check check (framing in ('rtu', 'tcp', 'sdi-12'));
