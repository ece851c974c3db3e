-- Discharge by level alone: power laws by reach, with a shift. Each version holds from its instant on.
create table level_rating (
  station_id uuid not null references station,
  id uuid not null,
  number integer not null,
  holds_from timestamptz not null,
  segments jsonb not null,
  -- Added to the level before it is read off, m.
  shift double precision not null,
  -- Gaugings that were on file when it was made.
  gaugings jsonb not null,
  note text not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  taken_back_at timestamptz,
  taken_back_by uuid references app_user,
  taken_back_reason text,
  primary key (station_id, id),
  unique (station_id, number),
  check (num_nulls(taken_back_at, taken_back_by, taken_back_reason) in (0, 3))
);
grant select, insert on level_rating to outer_cairn_app;
grant update (taken_back_at, taken_back_by, taken_back_reason) on level_rating to outer_cairn_app;

create function mark_level_rating() returns trigger language plpgsql as $$
begin
  insert into derived_mark (station_id, channel_id, from_at, until_at)
    select d.station_id, d.channel_id, '-infinity', 'infinity' from derivation d
     where d.station_id = new.station_id and d.formula = 'levelRating';
  return null;
end $$;
create trigger mark_discharge after insert or update on level_rating for each row execute function mark_level_rating();
