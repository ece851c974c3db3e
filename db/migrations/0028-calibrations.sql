-- What a laboratory said of a reference instrument: since then it is in date again, and its corrections hold.
create table calibration (
  id uuid primary key,
  instrument_id uuid not null references reference_instrument,
  done_on date not null,
  due_on date not null,
  certificate text not null check (certificate <> ''),
  says jsonb not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  check (due_on > done_on)
);
create index calibration_of on calibration (instrument_id, done_on);
-- The application may not touch the dates of an instrument; a newer calibration moves them.
create function renew_calibration() returns trigger
  language plpgsql security definer set search_path = public, pg_temp as $$
begin
  update reference_instrument set calibrated_on = new.done_on, due_on = new.due_on
    where id = new.instrument_id and calibrated_on < new.done_on;
  return null;
end $$;
revoke all on function renew_calibration() from public;
create trigger renew after insert on calibration for each row execute function renew_calibration();
create trigger mark after insert on calibration for each row execute function mark_stations_of_instrument();
grant select, insert on calibration to outer_cairn_app;

-- What a handheld wants of whoever carries it: switch-off, preparation, what of it wears. The newest row counts.
create table instrument_care (
  id uuid primary key,
  instrument_id uuid not null references reference_instrument,
  care jsonb not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now()
);
create index instrument_care_of on instrument_care (instrument_id, recorded_at);
grant select, insert on instrument_care to outer_cairn_app;

-- Two instruments of the kit read side by side.
create table cross_check (
  id uuid primary key,
  instrument_id uuid not null references reference_instrument,
  other_id uuid not null references reference_instrument,
  quantity text not null,
  pairs jsonb not null,
  place text not null,
  compared_at timestamptz not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  check (instrument_id <> other_id)
);
create index cross_check_of on cross_check (instrument_id, compared_at);
create index cross_check_of_other on cross_check (other_id, compared_at);
grant select, insert on cross_check to outer_cairn_app;

-- Whether the reference of a reading stood still itself.
alter table check_reading add column reference_rest jsonb;
-- Until when a device that was adjusted by hand works on itself: what it reads meanwhile is no data.
alter table adjustment add column runs_until timestamptz;
-- Read as found, but after the sensor was cleaned: what that changed is fouling, what is left is drift.
alter table check_reading add column after_cleaning boolean not null default false;
