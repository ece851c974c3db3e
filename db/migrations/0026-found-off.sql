-- A reference instrument that was found off: by how much, since when it may have been, and why one knows. What was
-- checked with it stays as it is; what it would have said is reckoned from this. A later row takes one back.
create table found_off (
  id uuid primary key,
  instrument_id uuid not null references reference_instrument,
  quantity text not null,
  off_by double precision not null check (off_by <> 0),
  good_until timestamptz not null,
  found_at timestamptz not null,
  why text not null check (why <> ''),
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  revokes uuid unique references found_off,
  check (good_until < found_at)
);
create index found_off_of on found_off (instrument_id, found_at);
-- Every station where it was used is judged anew.
create function mark_stations_of_instrument() returns trigger language plpgsql as $$
begin
  insert into standing_mark (station_id)
    select distinct station_id from reference_check where instrument_id = new.instrument_id;
  return null;
end $$;
create trigger mark after insert on found_off for each row execute function mark_stations_of_instrument();

grant select, insert on found_off to outer_cairn_app;
