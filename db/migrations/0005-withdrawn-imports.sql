-- An import can be withdrawn as a whole, and comes back when that is taken back: every reading knows the
-- import it came with (0: its logger), and one that is withdrawn is read by nobody. Its stamps are free for
-- the right file, so the source is part of a reading's key.

alter table record_import add column key integer generated always as identity unique;
alter table reading add column source integer not null default 0;
alter table reading drop constraint reading_pkey;
alter table reading add primary key (station_key, channel_key, at, clock_run, source);

-- Layers are counted as they are laid: of two in one millisecond it is still known which came first.
alter table layer add column seq bigint generated always as identity;
alter table layer drop constraint layer_kind_check;
alter table layer add constraint layer_kind_check
  check (kind in ('flag', 'off-line', 'correction', 'approval', 'clock', 'withdrawal'));
-- One layer is taken back once.
drop index layer_revoked;
create unique index layer_revoked on layer (station_id, revokes) where revokes is not null;
create index layer_withdrawal on layer (station_id) where kind = 'withdrawal';

-- Layers that nothing has taken back; one that only takes another back is none.
create view active_layer as
  select l.* from layer l
   where l.parameters->>'empty' is null
     and not exists (select 1 from layer r where r.station_id = l.station_id and r.revokes = l.id);
grant select on active_layer to outer_cairn_app;

create function withdrawn_sources(station integer) returns integer[]
language sql stable set search_path = public, pg_temp as $$
  select coalesce(array_agg(distinct i.key), '{}')
    from station s join active_layer l on l.station_id = s.id and l.kind = 'withdrawal'
    join record_import i on i.station_id = s.id and i.id = (l.parameters->>'importId')::uuid
   where s.key = $1
$$;
grant execute on function withdrawn_sources(integer) to outer_cairn_app;

-- A comparison made while our own clock was wrong is taken back; both stay on file.
create table clock_comparison_taken_back (
  station_id uuid not null,
  comparison_id uuid not null,
  person_id uuid not null references app_user,
  reason text not null check (reason <> ''),
  at timestamptz not null default now(),
  primary key (station_id, comparison_id),
  foreign key (station_id, comparison_id) references clock_comparison
);
create trigger mark after insert on clock_comparison_taken_back for each row execute function mark_station();
create view clock_compared as
  select c.* from clock_comparison c
   where not exists (select 1 from clock_comparison_taken_back t
                      where t.station_id = c.station_id and t.comparison_id = c.id);
grant select on clock_compared to outer_cairn_app;
grant select, insert on clock_comparison_taken_back to outer_cairn_app;

-- Lakes were read before there were loggers.
create or replace function ensure_reading_partition(year integer) returns void
language plpgsql security definer set search_path = public, pg_temp as $$
declare
  name text := 'reading_y' || year;
begin
  if year < 1700 or year > 2200 then
    raise exception 'year % is outside 1700–2200', year;
  end if;
  perform pg_advisory_xact_lock(4711, year);
  if to_regclass('public.' || name) is not null then
    return;
  end if;
  execute format('create table %I (like reading including all)', name);
  execute format('alter table reading attach partition %I for values from (%L) to (%L)',
    name, make_timestamptz(year, 1, 1, 0, 0, 0, 'UTC'), make_timestamptz(year + 1, 1, 1, 0, 0, 0, 'UTC'));
end $$;
