-- Visits: a device that was lost gives up what it holds.

-- Whether a session was ended on purpose, or its person may not sign in any more: not one that ran out.
create function session_was_ended(hash bytea) returns boolean
language sql stable security definer set search_path = public, pg_temp as $$
  select exists (select 1 from session s join app_user u on u.id = s.user_id
                  where s.token_hash = hash and (s.revoked_at is not null or u.disabled_at is not null))
$$;
revoke all on function session_was_ended from public;
grant execute on function session_was_ended to outer_cairn_app;
