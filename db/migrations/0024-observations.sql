-- A check is a set of dated observations. A reading holds what belongs together; sensor, reference and companions
-- hang on it one by one, each with its own time: the reference may come hours or days after the sensor.
create table observation (
  station_id uuid not null,
  id uuid not null,
  reading_id uuid not null,
  -- sensor, reference, or the key of a companion of the check's procedure
  role text not null check (role ~ '^[a-z][A-Za-z]*$'),
  value double precision not null check (value = value and abs(value) < 'Infinity'),
  -- since when it is the mean of what was read; null for one that was read at its instant
  since timestamptz,
  occurred_at timestamptz not null,
  recorded_at timestamptz not null default now(),
  recorded_by uuid not null references app_user,
  entered jsonb not null,
  excluded_at timestamptz,
  excluded_reason text,
  primary key (station_id, id),
  foreign key (station_id, reading_id) references check_reading,
  check (since is null or since < occurred_at),
  check ((excluded_at is null) = (excluded_reason is null))
);
create index observation_of_reading on observation (station_id, reading_id);
-- What the sensor read is one number; the reference may be read again for it.
create unique index observation_once on observation (station_id, reading_id, role) where role <> 'reference' and excluded_at is null;

insert into observation (station_id, id, reading_id, role, value, occurred_at, recorded_at, recorded_by, entered)
select r.station_id, gen_random_uuid(), r.id, o.role, o.value, r.occurred_at, r.recorded_at, r.recorded_by, o.entered
  from check_reading r cross join lateral (values
    ('sensor', r.sensor_value, r.entered - 'reference' - 'referenceTemperature'),
    ('reference', r.reference_value, coalesce(r.entered->'reference', '{}')),
    ('sensorTemperature', r.sensor_temperature, '{}'),
    ('referenceTemperature', r.reference_temperature, coalesce(nullif(r.entered->'referenceTemperature', 'null'), '{}'))
  ) as o (role, value, entered)
 where o.value is not null;

alter table check_reading
  drop column sensor_value, drop column reference_value, drop column sensor_temperature,
  drop column reference_temperature, drop column difference, drop column entered,
  add column point text;
alter table reference_check drop column temperature_channel_id;

create function require_open_check_of_reading() returns trigger language plpgsql as $$
begin
  perform 1 from check_reading r join reference_check k on k.station_id = r.station_id and k.id = r.check_id
    where r.station_id = new.station_id and r.id = new.reading_id and k.closed_at is null for share of k;
  if not found then
    raise exception 'this check is closed' using errcode = '23514', constraint = 'reference_check_closed';
  end if;
  return new;
end $$;
create trigger open_check before insert or update on observation
  for each row execute function require_open_check_of_reading();
create trigger closed before update on observation for each row when (old.excluded_at is not null)
  execute function refuse_rewrite('observation', 'check_reading_excluded');

grant select, insert on observation to outer_cairn_app;
grant update (excluded_at, excluded_reason) on observation to outer_cairn_app;
