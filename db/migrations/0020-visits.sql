-- Visits: a device that was lost gives up what it holds.

-- Whether a session was ended on purpose, or its person may not sign in any more: not one that ran out.
create function session_was_ended(hash bytea) returns boolean
language sql stable security definer set search_path = public, pg_temp as $$
  select exists (select 1 from session s join app_user u on u.id = s.user_id
                  where s.token_hash = hash and (s.revoked_at is not null or u.disabled_at is not null))
$$;
revoke all on function session_was_ended from public;
grant execute on function session_was_ended to outer_cairn_app;

-- Somebody comes to a station: with whom, and which of its hazards they acknowledged.
create table arrival (
  station_id uuid not null references station,
  id uuid not null,
  visit_id uuid not null,
  arrived_at timestamptz not null,
  person_id uuid not null references app_user,
  others text not null,
  recorded_at timestamptz not null default now(),
  primary key (station_id, id),
  -- A visit begins once.
  constraint arrival_once unique (station_id, visit_id),
  foreign key (station_id, visit_id) references visit
);
create table hazard_acknowledged (
  station_id uuid not null,
  arrival_id uuid not null,
  number integer not null,
  caution text not null,
  primary key (station_id, arrival_id, number),
  foreign key (station_id, arrival_id) references arrival
);

-- Somebody goes: what stayed open at the station, since when, and why.
create table departure (
  station_id uuid not null references station,
  id uuid not null,
  visit_id uuid not null,
  left_at timestamptz not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  primary key (station_id, id),
  -- A visit ends once.
  constraint departure_once unique (station_id, visit_id),
  foreign key (station_id, visit_id) references visit
);
create table left_open (
  station_id uuid not null,
  departure_id uuid not null,
  kind text not null,
  -- What it is about: a sensor, a channel, a line, a check, a device action, a line of the checklist.
  subject uuid not null,
  who text not null,
  since timestamptz not null,
  -- Empty where nobody knew: it was found open when the departure was heard of.
  reason text not null,
  primary key (station_id, departure_id, kind, subject),
  foreign key (station_id, departure_id) references departure
);
create index left_open_by_subject on left_open (station_id, subject);

-- What people add to the checklist of a station, and what they ticked off it.
create table checklist_line (
  station_id uuid not null references station,
  id uuid not null,
  kind text not null check (kind in ('to-do', 'put-back')),
  says text not null,
  added_at timestamptz not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  primary key (station_id, id)
);
create table checklist_tick (
  station_id uuid not null references station,
  id uuid not null,
  -- A line of the checklist, or what is due: its finding and what that is about.
  item text not null,
  says text not null,
  done boolean not null,
  ticked_at timestamptz not null,
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  primary key (station_id, id)
);
create index checklist_tick_of_item on checklist_tick (station_id, item, ticked_at);

grant select, insert on arrival, hazard_acknowledged, departure, left_open, checklist_line, checklist_tick
  to outer_cairn_app;
create trigger mark after insert on departure for each row execute function mark_station();
create trigger mark after insert on left_open for each row execute function mark_station();
create trigger mark after insert on checklist_line for each row execute function mark_station();
create trigger mark after insert on checklist_tick for each row execute function mark_station();
-- A line that is held in a logger's place may be what stayed open.
create trigger mark after insert or update on line_session for each row execute function mark_station();

-- A visit's page is signed by whoever wrote it: what is recorded after that stands there as an addition.
create table visit_signature (
  station_id uuid not null,
  visit_id uuid not null,
  person_id uuid not null references app_user,
  signed_at timestamptz not null,
  -- How many lines were signed, and of what they said.
  lines integer not null,
  sha256 text not null,
  primary key (station_id, visit_id),
  foreign key (station_id, visit_id) references visit
);
grant select, insert on visit_signature to outer_cairn_app;
create index field_book_line_of_visit on field_book_line (station_id, visit_id, occurred_at);

-- What a picture shows: a terminal, or a hop of a channel's signal path; a copy with marks drawn on it.
alter table photograph add column terminal text;
alter table photograph add column channel_id uuid;
alter table photograph add column hop text
  check (hop in ('element', 'leads', 'input', 'conversion', 'adjustment', 'record'));
alter table photograph add column copy_of uuid;
alter table photograph add constraint photograph_channel foreign key (station_id, channel_id) references channel;
alter table photograph add constraint photograph_copy foreign key (station_id, copy_of) references photograph;
alter table photograph add constraint photograph_about
  check ((channel_id is null) = (hop is null) and num_nonnulls(terminal, hop) <= 1);
