-- A reference instrument that was found off: by how much, since when it may have been, and why one knows. What was
-- checked with it stays as it is; what it would have said is reckoned from this. A later row takes one back.
create table instrument_finding (
  id uuid primary key,
  instrument_id uuid not null references reference_instrument,
  quantity text not null,
  off_by double precision not null check (off_by <> 0),
  good_until timestamptz not null,
  found_at timestamptz not null,
  why text not null check (why <> ''),
  person_id uuid not null references app_user,
  recorded_at timestamptz not null default now(),
  revokes uuid unique references instrument_finding,
  check (good_until < found_at)
);
create index instrument_finding_of on instrument_finding (instrument_id, found_at);
grant select, insert on instrument_finding to outer_cairn_app;
