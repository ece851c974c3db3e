-- What a device model is, as data. Revisions are never changed: a sensor keeps the one it was installed with.
create table device_profile (
  code text not null,
  revision integer not null check (revision > 0),
  body jsonb not null,
  sha256 text not null,
  -- Null for what ships with the application.
  person_id uuid references app_user,
  added_at timestamptz not null default now(),
  primary key (code, revision)
);
grant select, insert on device_profile to outer_cairn_app;

alter table sensor rename column model_code to profile_code;
alter table sensor add column profile_revision integer not null default 1;
alter table sensor alter column profile_revision drop default;

-- A channel is mapped to an output of its sensor by the output's key. Until now every output was known by
-- its quantity, and no model had two of one.
alter table mapping add column output_key text;
update mapping m set output_key = c.quantity from channel c where c.station_id = m.station_id and c.id = m.channel_id;
alter table mapping alter column output_key set not null;

-- The sensor that hung there before, where one was put in its place.
alter table installation add column replaces uuid;
alter table installation add foreign key (station_id, replaces) references installation;
create unique index installation_replaced_once on installation (station_id, replaces) where replaces is not null;
