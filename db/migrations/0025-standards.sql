-- Standards of the kit: buffers, solutions, gases, with the values of their label, their lot and their end.
create table standard (
  id uuid primary key,
  name text not null check (name <> ''),
  quantity text not null,
  lot text not null check (lot <> ''),
  label jsonb not null,
  tolerance double precision not null check (tolerance > 0),
  opened_on date,
  expires_on date not null,
  person_id uuid not null references app_user,
  added_at timestamptz not null default now(),
  retired_at timestamptz
);
-- One bottle of a lot is as good as another; the same lot is not entered twice.
create unique index standard_one_lot on standard (quantity, name, lot) where retired_at is null;
grant select, insert on standard to outer_cairn_app;
grant update (retired_at) on standard to outer_cairn_app;

-- Against standards, or what nature gives, no instrument is read.
alter table reference_check alter column instrument_id drop not null;
