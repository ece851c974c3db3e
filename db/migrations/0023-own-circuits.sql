-- Circuits that people draw, each saving a revision of its own; the last one counts.
create table own_circuit (
  id uuid not null,
  revision integer not null check (revision >= 1),
  body jsonb not null,
  -- Put away: kept, not offered any more.
  is_away boolean not null,
  person_id uuid not null references app_user,
  saved_at timestamptz not null default now(),
  primary key (id, revision)
);
grant select, insert on own_circuit to outer_cairn_app;
