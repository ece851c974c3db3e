-- Where a channel's values come from: its logger, files, a person, or other channels by a formula. Only
-- what a logger logs has a logger and a number there.

alter table channel rename column fed_by to source;
alter table channel drop constraint channel_fed_by_check;
alter table channel add constraint channel_source_check check (source in ('logger', 'file', 'manual', 'derived'));
alter table channel alter column logger_id drop not null;
alter table channel alter column number drop not null;
update channel set logger_id = null, number = null where source <> 'logger';
alter table channel add constraint channel_of_logger
  check ((source = 'logger') = (logger_id is not null) and (logger_id is null) = (number is null));

-- What a derived channel is reckoned from. Set once: another formula is another channel.
create table derivation (
  station_id uuid not null,
  channel_id uuid not null,
  formula text not null,
  -- Channels of this station by the formula's names.
  inputs jsonb not null,
  parameters jsonb not null,
  person_id uuid not null references app_user,
  set_at timestamptz not null,
  primary key (station_id, channel_id),
  foreign key (station_id, channel_id) references channel
);
create trigger mark after insert on derivation for each row execute function mark_station();

-- Spans of derived channels whose inputs have changed; the next reader reckons them anew.
create table derived_mark (
  id bigint generated always as identity primary key,
  station_id uuid not null,
  channel_id uuid not null,
  from_at timestamptz not null,
  until_at timestamptz not null,
  foreign key (station_id, channel_id) references derivation
);
create index derived_mark_of_station on derived_mark (station_id);

-- Marks what rests on a channel, or on any of a station, over a span.
create function mark_derived(station uuid, channel uuid, span_from timestamptz, span_until timestamptz)
returns void language sql as $$
  insert into derived_mark (station_id, channel_id, from_at, until_at)
    select d.station_id, d.channel_id, coalesce($3, '-infinity'), coalesce($4, 'infinity')
      from derivation d
     where d.station_id = $1
       and ($2 is null or exists (select 1 from jsonb_each_text(d.inputs) i where i.value = $2::text))
$$;

create function mark_derived_of_layer() returns trigger language plpgsql as $$
begin
  perform mark_derived(l.station_id, l.channel_id, least(l.from_at, r.from_at),
      greatest(coalesce(l.until_at, 'infinity'), case when r.id is null then l.until_at else coalesce(r.until_at, 'infinity') end))
     from changed l left join layer r on r.station_id = l.station_id and r.id = l.revokes
    where l.kind <> 'approval';
  return null;
end $$;
create trigger mark_derived after insert on layer referencing new table as changed
  for each statement execute function mark_derived_of_layer();

create function mark_derived_of_collection() returns trigger language plpgsql as $$
begin
  if new.stored > 0 then perform mark_derived(new.station_id, null, new.from_stamp, new.until_stamp); end if;
  return null;
end $$;
create trigger mark_derived after insert on collection for each row execute function mark_derived_of_collection();

create function mark_derived_of_import() returns trigger language plpgsql as $$
begin
  if new.stored > 0 then perform mark_derived(new.station_id, null, new.from_at, new.until_at); end if;
  return null;
end $$;
create trigger mark_derived after update of state on record_import
  for each row when (new.state = 'complete') execute function mark_derived_of_import();

-- An adjustment of the record ends with the sensor it was made for.
create function mark_derived_of_mapping() returns trigger language plpgsql as $$
begin
  perform mark_derived(new.station_id, new.channel_id, new.until_at, 'infinity');
  return null;
end $$;
create trigger mark_derived after update of until_at on mapping
  for each row when (new.until_at is not null) execute function mark_derived_of_mapping();

create function mark_derived_whole() returns trigger language plpgsql as $$
begin
  insert into derived_mark (station_id, channel_id, from_at, until_at)
    values (new.station_id, new.channel_id, '-infinity', 'infinity');
  return null;
end $$;
create trigger mark_derived after insert on derivation for each row execute function mark_derived_whole();

-- Takes away what was reckoned, so that it can be reckoned anew. Nothing that was logged can be taken so.
create function clear_derived(station integer, channel integer, span_from timestamptz, span_until timestamptz)
returns void language plpgsql security definer set search_path = public, pg_temp as $$
begin
  if not exists (select 1 from channel c where c.key = $2 and c.source = 'derived') then
    raise exception 'channel % is not derived', $2;
  end if;
  delete from reading where station_key = $1 and channel_key = $2 and at between $3 and $4;
end $$;
revoke all on function clear_derived(integer, integer, timestamptz, timestamptz) from public;
grant execute on function clear_derived(integer, integer, timestamptz, timestamptz) to outer_cairn_app;

grant select, insert on derivation to outer_cairn_app;
grant select, insert, delete on derived_mark to outer_cairn_app;

-- A channel and those it is reckoned from: what happens to them happens to it.
create view channel_rests_on as
  select station_id, id as channel_id, id as on_channel_id from channel
  union all
  select d.station_id, d.channel_id, i.value::uuid from derivation d cross join lateral jsonb_each_text(d.inputs) i;
grant select on channel_rests_on to outer_cairn_app;
