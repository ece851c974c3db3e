-- Above which zero the levels of a station are, and where that lies in others. The newest row counts.
create table station_datum (
  station_id uuid not null references station,
  id uuid not null,
  name text not null check (name <> ''),
  others jsonb not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  primary key (station_id, id)
);
create index station_datum_of on station_datum (station_id, recorded_at);
grant select, insert on station_datum to outer_cairn_app;

-- What levels are read from, and what surveys are tied to.
create table measuring_point (
  station_id uuid not null references station,
  id uuid not null,
  code text not null check (code <> ''),
  name text not null,
  kind text not null check (kind in
    ('reference-point', 'staff', 'wire-weight', 'crest-stage', 'sensor', 'sensor-zero', 'benchmark', 'bed')),
  -- The channel whose record its readings stand beside.
  channel_id uuid,
  person_id uuid not null references app_user,
  added_at timestamptz not null default now(),
  retired_at timestamptz,
  primary key (station_id, id),
  foreign key (station_id, channel_id) references channel
);
create unique index measuring_point_code on measuring_point (station_id, code) where retired_at is null;
grant select, insert on measuring_point to outer_cairn_app;
grant update (retired_at) on measuring_point to outer_cairn_app;

-- Elevations as they were levelled: by a sheet, or stated by somebody else's report.
create table level_survey (
  station_id uuid not null references station,
  id uuid not null,
  surveyed_at timestamptz not null,
  surveyed_by text not null check (surveyed_by <> ''),
  note text not null,
  -- Null where only its outcome is known.
  sheet jsonb,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  taken_back_at timestamptz,
  taken_back_by uuid references app_user,
  taken_back_reason text,
  primary key (station_id, id),
  check (num_nulls(taken_back_at, taken_back_by, taken_back_reason) in (0, 3))
);
grant select, insert on level_survey to outer_cairn_app;
grant update (taken_back_at, taken_back_by, taken_back_reason) on level_survey to outer_cairn_app;

create table point_elevation (
  station_id uuid not null,
  survey_id uuid not null,
  point_id uuid not null,
  elevation double precision not null,
  accuracy double precision not null check (accuracy > 0),
  primary key (station_id, survey_id, point_id),
  foreign key (station_id, survey_id) references level_survey,
  foreign key (station_id, point_id) references measuring_point
);
grant select, insert on point_elevation to outer_cairn_app;

-- A level as it was read, with the elevation its sum was made with: a later survey changes nothing here.
create table level_reading (
  station_id uuid not null references station,
  id uuid not null,
  -- Null where it was worked out by hand beside any point.
  point_id uuid,
  read jsonb not null,
  accuracy double precision not null check (accuracy > 0),
  survey_id uuid,
  elevation double precision,
  elevation_accuracy double precision,
  -- It was asked about, and looked at again.
  looked_again boolean not null,
  read_at timestamptz not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  taken_back_at timestamptz,
  taken_back_by uuid references app_user,
  taken_back_reason text,
  primary key (station_id, id),
  foreign key (station_id, point_id) references measuring_point,
  foreign key (station_id, survey_id) references level_survey,
  check (num_nulls(survey_id, elevation, elevation_accuracy) in (0, 3)),
  check (num_nulls(taken_back_at, taken_back_by, taken_back_reason) in (0, 3))
);
create index level_reading_by_time on level_reading (station_id, read_at);
create trigger mark after insert or update on level_reading for each row execute function mark_station();
grant select, insert on level_reading to outer_cairn_app;
grant update (taken_back_at, taken_back_by, taken_back_reason) on level_reading to outer_cairn_app;

-- What was found out afterwards of a level, and agreed to by somebody.
create table level_revision (
  station_id uuid not null,
  id uuid not null,
  reading_id uuid not null,
  because text not null check (because in ('assumed', 'bar', 'survey')),
  adds double precision not null,
  survey_id uuid,
  reason text not null check (reason <> ''),
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  taken_back_at timestamptz,
  taken_back_by uuid references app_user,
  taken_back_reason text,
  primary key (station_id, id),
  foreign key (station_id, reading_id) references level_reading,
  foreign key (station_id, survey_id) references level_survey,
  check ((because = 'survey') = (survey_id is not null)),
  check (num_nulls(taken_back_at, taken_back_by, taken_back_reason) in (0, 3))
);
-- One correction of the gauge, and one of each survey.
create unique index level_revision_once on level_revision (station_id, reading_id, coalesce(survey_id, reading_id))
  where taken_back_at is null;
create trigger mark after insert or update on level_revision for each row execute function mark_station();
grant select, insert on level_revision to outer_cairn_app;
grant update (taken_back_at, taken_back_by, taken_back_reason) on level_revision to outer_cairn_app;
