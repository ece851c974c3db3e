-- Append-only where it is claimed. The application's role may add; what it may still write over are the
-- columns that close a row, once, and what is derived.

-- Checks: closed by the columns of their end, and then for ever.
revoke update on reference_check, check_reading, device_action, setting_revision, reading_rollup, app_user, session,
  record_import, installation, channel, station, site, logger, port, reference_instrument, operation, twin, visit,
  channel_standing from outer_cairn_app;
revoke insert on reading_rollup, app_user, session, audit from outer_cairn_app;
revoke select on app_user, session from outer_cairn_app;

grant update (result, concluded_at, outcome, closed_at, closing_difference) on reference_check to outer_cairn_app;
grant update (excluded_at, excluded_reason) on check_reading to outer_cairn_app;
grant update (state, outcome, settled_at) on device_action to outer_cairn_app;
grant update (written_at, read_back, discarded_at) on setting_revision to outer_cairn_app;
grant update (state, ended_at, message, data_rows, stored, known, conflicting, refused, missing, from_at, until_at)
  on record_import to outer_cairn_app;
grant update (until_at) on installation to outer_cairn_app;
grant update (check_every_days) on channel to outer_cairn_app;
grant update (retired_at) on reference_instrument to outer_cairn_app;
grant update (closed_at) on visit to outer_cairn_app;
grant update (ended_at) on twin to outer_cairn_app;
grant update (state, progress, message, result, beat_at, cancel_asked_at, ended_at) on operation to outer_cairn_app;

-- What is closed stays closed, whoever asks.
create function refuse_rewrite() returns trigger language plpgsql as $$
begin
  raise exception 'this % is closed', tg_argv[0] using errcode = '23514', constraint = tg_argv[1];
end $$;
create trigger closed before update on reference_check for each row when (old.closed_at is not null)
  execute function refuse_rewrite('check', 'reference_check_closed');
create trigger closed before update on device_action for each row when (old.settled_at is not null)
  execute function refuse_rewrite('device action', 'device_action_settled');
create trigger closed before update on setting_revision for each row
  -- A later read-back may find that the logger does not hold it any more.
  when (old.written_at is not null and new.written_at is not null)
  execute function refuse_rewrite('revision', 'setting_revision_written');
create trigger closed before update on check_reading for each row when (old.excluded_at is not null)
  execute function refuse_rewrite('reading', 'check_reading_excluded');
create trigger closed before update on record_import for each row when (old.state in ('complete', 'absent'))
  execute function refuse_rewrite('import', 'record_import_over');
create trigger closed before update on operation for each row when (old.state <> 'running')
  execute function refuse_rewrite('operation', 'operation_over');

-- A reading belongs to an open check: looked at under a lock that whoever closes it waits for.
create function require_open_check() returns trigger language plpgsql as $$
begin
  perform 1 from reference_check where station_id = new.station_id and id = new.check_id and closed_at is null for share;
  if not found then
    raise exception 'this check is closed' using errcode = '23514', constraint = 'reference_check_closed';
  end if;
  return new;
end $$;
create trigger open_check before insert or update on check_reading for each row execute function require_open_check();
create trigger open_check before insert on adjustment for each row execute function require_open_check();

-- Rollups are what their readings say: written whole, by this and nothing else. Buckets of the span that
-- are not among them hold nothing any more.
create function store_rollups(
  station integer, channel integer, bucket_width integer, span_from timestamptz, span_until timestamptz,
  b float8[], ns integer[], sums float8[], mins float8[], maxs float8[], firsts float8[], lasts float8[],
  sins float8[], coss float8[]) returns void
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  delete from reading_rollup r
   where r.station_key = station and r.channel_key = channel and r.width = bucket_width
     and r.bucket >= span_from and r.bucket < span_until and extract(epoch from r.bucket)::float8 <> all (b);
  insert into reading_rollup (station_key, channel_key, width, bucket, n, sum, min, max, first, last, sin_sum, cos_sum)
    select station, channel, bucket_width, to_timestamp(c.b), c.n, c.s, c.lo, c.hi, c.f, c.l, c.sn, c.cs
      from unnest(b, ns, sums, mins, maxs, firsts, lasts, sins, coss) as c(b, n, s, lo, hi, f, l, sn, cs)
  on conflict (station_key, channel_key, width, bucket) do update
    set n = excluded.n, sum = excluded.sum, min = excluded.min, max = excluded.max, first = excluded.first,
        last = excluded.last, sin_sum = excluded.sin_sum, cos_sum = excluded.cos_sum;
end $$;
revoke all on function store_rollups from public;
grant execute on function store_rollups to outer_cairn_app;

-- The audit is stamped by the database.
grant insert (person_id, action, station_id, subject) on audit to outer_cairn_app;
grant select on audit to outer_cairn_app;
