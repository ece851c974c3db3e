-- Cross-sections as they were measured: each holds from its day on.
create table cross_section (
  station_id uuid not null references station,
  id uuid not null,
  holds_from timestamptz not null,
  points jsonb not null,
  -- Expanded relative uncertainty of its area, share.
  uncertainty double precision not null check (uncertainty >= 0),
  note text not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  taken_back_at timestamptz,
  taken_back_by uuid references app_user,
  taken_back_reason text,
  primary key (station_id, id),
  check (num_nulls(taken_back_at, taken_back_by, taken_back_reason) in (0, 3))
);

-- Gaugings as they were entered, with what the station measured meanwhile.
create table gauging (
  station_id uuid not null references station,
  id uuid not null,
  begun_at timestamptz not null,
  ended_at timestamptz not null,
  sheet jsonb not null,
  level double precision not null,
  level_change double precision not null,
  -- Null where the station measures none: such a gauging is for a rating by level.
  velocity double precision,
  velocity_uncertainty double precision not null check (velocity_uncertainty >= 0),
  note text not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  taken_back_at timestamptz,
  taken_back_by uuid references app_user,
  taken_back_reason text,
  primary key (station_id, id),
  check (ended_at > begun_at),
  check (num_nulls(taken_back_at, taken_back_by, taken_back_reason) in (0, 3))
);

-- Mean ÷ surface velocity over level, by supports; each version holds from its instant on.
create table k_curve (
  station_id uuid not null references station,
  id uuid not null,
  number integer not null,
  holds_from timestamptz not null,
  forward jsonb not null,
  reverse jsonb,
  -- Expanded relative uncertainty of k, share.
  uncertainty double precision not null check (uncertainty > 0),
  -- Gaugings that were on file when it was led.
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
grant select, insert on cross_section, gauging, k_curve to outer_cairn_app;
grant update (taken_back_at, taken_back_by, taken_back_reason) on cross_section, gauging, k_curve to outer_cairn_app;

-- Discharges that rest on a section or a curve are reckoned anew. Before the first of them the first one holds.
create function mark_discharge() returns trigger language plpgsql as $$
begin
  insert into derived_mark (station_id, channel_id, from_at, until_at)
    select d.station_id, d.channel_id, '-infinity', 'infinity' from derivation d
     where d.station_id = new.station_id and d.formula = 'surfaceVelocity';
  return null;
end $$;
create trigger mark_discharge after insert or update on cross_section for each row execute function mark_discharge();
create trigger mark_discharge after insert or update on k_curve for each row execute function mark_discharge();
