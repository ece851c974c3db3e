-- Pictures of terminals and places, small as they were made small on the way; what they show is evidence, so
-- a picture is taken back, never changed.
create table photograph (
  station_id uuid not null references station,
  id uuid not null,
  occasion text not null check (occasion in ('before', 'after', 'place')),
  note text not null,
  taken_at timestamptz not null,
  -- The revision of the wiring plan it was taken by; null for none.
  plan_revision integer,
  width integer not null check (width > 0),
  height integer not null check (height > 0),
  picture bytea not null,
  small bytea not null,
  -- Of what was sent, so that the same picture sent again is known.
  sha256 text not null,
  latitude double precision check (latitude between -90 and 90),
  longitude double precision check (longitude between -180 and 180),
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  taken_back_at timestamptz,
  taken_back_by uuid references app_user,
  taken_back_reason text,
  primary key (station_id, id),
  foreign key (station_id, plan_revision) references wiring_plan (station_id, revision),
  check ((latitude is null) = (longitude is null)),
  check (num_nulls(taken_back_at, taken_back_by, taken_back_reason) in (0, 3))
);
grant select, insert on photograph to outer_cairn_app;
grant update (taken_back_at, taken_back_by, taken_back_reason) on photograph to outer_cairn_app;
