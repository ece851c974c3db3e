-- A logger may be described: which terminals it has, and what they do. Null: a model nobody described.
alter table logger add column profile_code text;
alter table logger add column profile_revision integer;
alter table logger add foreign key (profile_code, profile_revision) references device_profile (code, revision);
alter table logger add check ((profile_code is null) = (profile_revision is null));

-- A port is a serial line with a gateway, or a row of terminals that has neither.
alter table port alter column gateway_address drop not null;
alter table port alter column framing drop not null;
alter table port alter column baud drop not null;
alter table port alter column data_bits drop not null;
alter table port alter column parity drop not null;
alter table port alter column stop_bits drop not null;
alter table port add constraint port_line_whole check (
  num_nulls(gateway_address, framing, baud, data_bits, parity, stop_bits) in (0, 6));

-- A sensor is known on its port by an ID, by an address, or by its terminals alone.
alter table installation alter column bus_id drop not null;
alter table installation add column bus_address text check (bus_address ~ '^([0-9a-zA-Z]|0x[0-9a-f]{2})$');
alter table installation add check (bus_id is null or bus_address is null);
-- An address on a data line of SDI-12 is one sensor's. I²C addresses count by pair of pins: the plan checks those.
create unique index installation_one_address_per_port on installation (station_id, port_id, bus_address)
  where until_at is null and length(bus_address) = 1;

-- Through what a lead comes to its terminal: a splice, a screw of another sensor. Null: on it.
alter table lead add column via text;

-- What goes on which terminal, as it is planned. A plan that is changed is a new revision of it.
create table wiring_plan (
  station_id uuid not null references station,
  revision integer not null check (revision > 0),
  body jsonb not null,
  person_id uuid not null references app_user,
  saved_at timestamptz not null default now(),
  primary key (station_id, revision)
);
grant select, insert on wiring_plan to outer_cairn_app;

-- A site lies somewhere, and ends; so does a station.
alter table site add column latitude double precision check (latitude between -90 and 90);
alter table site add column longitude double precision check (longitude between -180 and 180);
alter table site add check ((latitude is null) = (longitude is null));
alter table site add column cautions jsonb not null default '[]';
alter table station add column retired_at timestamptz;
create view open_station as select * from station where retired_at is null;
grant select on open_station to outer_cairn_app;
-- Names, places and descriptions change; what a row is does not.
grant update (name, zone, note, latitude, longitude, cautions) on site to outer_cairn_app;
grant update (code, name, site_id, cautions, retired_at) on station to outer_cairn_app;
grant update (profile_code, profile_revision) on logger to outer_cairn_app;
