-- Accounts have a life: invited by a link that works once, disabled, signed out from elsewhere. Users and
-- sessions are reached through functions only; the application reads a password's hash of one account at a
-- time, to compare it, and can neither list hashes nor write a row of its own making.

alter table app_user alter column password_hash drop not null;
alter table app_user add column password_set_at timestamptz;
update app_user set password_set_at = created_at;
create unique index app_user_one_name on app_user (lower(name));

alter table session add column id uuid not null default gen_random_uuid() unique;
alter table session add column seen_at timestamptz not null default now();
alter table session add column address text not null default '';
alter table session add column device text not null default '';
create index session_of_user on session (user_id) where revoked_at is null;

-- A link that lets its holder choose a password, once.
create table password_link (
  token_hash bytea primary key,
  user_id uuid not null references app_user,
  made_by uuid references app_user,
  made_at timestamptz not null default now(),
  expires_at timestamptz not null,
  used_at timestamptz
);

-- Devices somebody signed in from before: a flood of wrong passwords from elsewhere does not lock these out.
create table known_device (
  token_hash bytea primary key,
  user_id uuid not null references app_user,
  seen_at timestamptz not null default now()
);

-- Everything about a person but the hash.
create view person as
  select id, name, initials, role, disabled_at, created_at, password_set_at, password_hash is not null as has_password
    from app_user;

create function user_for_sign_in(sign_in_name text)
returns table (id uuid, name text, initials text, role text, password_hash text, disabled_at timestamptz)
language sql stable security definer set search_path = public, pg_temp as $$
  select u.id, u.name, u.initials, u.role, u.password_hash, u.disabled_at from app_user u where u.name = lower(sign_in_name)
$$;

create function add_user(new_id uuid, new_name text, new_initials text, new_role text, hash text) returns void
language sql security definer set search_path = public, pg_temp as $$
  insert into app_user (id, name, initials, role, password_hash, password_set_at)
  values (new_id, new_name, new_initials, new_role, hash, case when hash is null then null else now() end)
$$;

create function has_administrator() returns boolean
language sql stable security definer set search_path = public, pg_temp as $$
  select exists (select 1 from app_user where role = 'administrator' and disabled_at is null and password_hash is not null)
$$;

-- Whatever changes an account's role, password or links takes one lock first (4717), so that two of them
-- never wait for each other's rows.

-- The first administrator is made by whoever can read the server's own output: it shows a code once.
create table setup_code (
  code_hash bytea primary key,
  expires_at timestamptz not null
);
create function make_setup_code(hash bytea) returns boolean
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  if has_administrator() then
    return false;
  end if;
  delete from setup_code where expires_at < now();
  insert into setup_code (code_hash, expires_at) values (hash, now() + interval '1 day');
  return true;
end $$;
create function use_setup_code(hash bytea, new_id uuid, new_name text, new_initials text, new_hash text) returns boolean
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  perform pg_advisory_xact_lock(4717, 0);
  if has_administrator() or not exists (select 1 from setup_code where code_hash = hash and expires_at > now()) then
    return false;
  end if;
  perform add_user(new_id, new_name, new_initials, 'administrator', new_hash);
  delete from setup_code;
  return true;
end $$;

-- Role and whether the account may be used; what they were before. The last administrator who can sign in
-- stays one.
create function change_user(user_id uuid, new_role text, disable boolean)
returns table (was_role text, was_disabled boolean)
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  perform pg_advisory_xact_lock(4717, 0);
  select u.role, u.disabled_at is not null into was_role, was_disabled from app_user u where u.id = user_id;
  update app_user u
     set role = new_role,
         disabled_at = case when disable then coalesce(u.disabled_at, now()) else null end
   where u.id = user_id;
  if was_role = 'administrator' and not has_administrator() then
    raise exception 'nobody could administer any more' using errcode = '23514', constraint = 'app_user_last_administrator';
  end if;
  if disable then
    update session s set revoked_at = now() where s.user_id = change_user.user_id and revoked_at is null;
    update password_link l set used_at = now() where l.user_id = change_user.user_id and used_at is null;
  end if;
  return next;
end $$;

-- A new password ends every session but the one it was chosen in, and every link that is still about.
create function set_password(user_id uuid, hash text, kept_session bytea) returns void
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  perform pg_advisory_xact_lock(4717, 0);
  update app_user u set password_hash = hash, password_set_at = now() where u.id = user_id;
  update session s set revoked_at = now()
   where s.user_id = set_password.user_id and revoked_at is null and token_hash is distinct from kept_session;
  update password_link l set used_at = now() where l.user_id = set_password.user_id and used_at is null;
  delete from known_device d where d.user_id = set_password.user_id;
end $$;

-- The same where the present password was compared before: false if it is another by now.
create function change_password(user_id uuid, old_hash text, new_hash text, kept_session bytea) returns boolean
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  perform pg_advisory_xact_lock(4717, 0);
  if not exists (select 1 from app_user u where u.id = user_id and u.password_hash = old_hash) then
    return false;
  end if;
  perform set_password(user_id, new_hash, kept_session);
  return true;
end $$;

create function make_password_link(hash bytea, for_user uuid, by_user uuid, hours integer) returns void
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  perform pg_advisory_xact_lock(4717, 0);
  update password_link set used_at = now() where user_id = for_user and used_at is null;
  insert into password_link (token_hash, user_id, made_by, expires_at)
  values (hash, for_user, by_user, now() + make_interval(hours => hours));
end $$;

create function holder_of_password_link(hash bytea) returns table (id uuid, name text)
language sql stable security definer set search_path = public, pg_temp as $$
  select u.id, u.name from password_link l join app_user u on u.id = l.user_id
   where l.token_hash = hash and l.used_at is null and l.expires_at > now() and u.disabled_at is null
$$;

-- The link is used up in the same breath as the password is set: of two who hold it, one wins.
create function use_password_link(hash bytea, new_hash text) returns uuid
language plpgsql security definer set search_path = public, pg_temp as $$
declare
  who uuid;
begin
  perform pg_advisory_xact_lock(4717, 0);
  update password_link l set used_at = now()
    from app_user u
   where l.token_hash = hash and l.used_at is null and l.expires_at > now() and u.id = l.user_id and u.disabled_at is null
  returning l.user_id into who;
  if who is not null then
    perform set_password(who, new_hash, null);
  end if;
  return who;
end $$;

create function open_session(hash bytea, for_user uuid, at timestamptz, ends_at timestamptz, from_address text, on_device text)
returns void language sql security definer set search_path = public, pg_temp as $$
  insert into session (token_hash, user_id, created_at, seen_at, expires_at, address, device)
  values (hash, for_user, at, at, ends_at, from_address, left(on_device, 200))
$$;

-- The person of a session that holds at an instant. Being seen moves its idle end, at most once a minute.
create function use_session(hash bytea, at timestamptz, idle interval)
returns table (id uuid, name text, initials text, role text)
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  update session s set seen_at = at
   where s.token_hash = hash and s.revoked_at is null and s.expires_at > at and s.seen_at > at - idle
     and s.seen_at < at - interval '1 minute';
  return query
    select u.id, u.name, u.initials, u.role from session s join app_user u on u.id = s.user_id
     where s.token_hash = hash and s.revoked_at is null and s.expires_at > at and s.seen_at > at - idle
       and u.disabled_at is null;
end $$;

create function end_session(hash bytea, at timestamptz) returns void
language sql security definer set search_path = public, pg_temp as $$
  update session set revoked_at = at where token_hash = hash and revoked_at is null
$$;

-- One session of a person by its id, or all of them but one.
create function end_sessions(of_user uuid, only_id uuid, kept bytea) returns integer
language sql security definer set search_path = public, pg_temp as $$
  with ended as (
    update session set revoked_at = now()
     where user_id = of_user and revoked_at is null and (only_id is null or id = only_id) and token_hash is distinct from kept
    returning 1)
  select count(*)::int from ended
$$;

create function sessions_of(of_user uuid, at timestamptz, idle interval, current bytea)
returns table (id uuid, created_at timestamptz, seen_at timestamptz, expires_at timestamptz, address text, device text, own boolean)
language sql stable security definer set search_path = public, pg_temp as $$
  select s.id, s.created_at, s.seen_at, s.expires_at, s.address, s.device, s.token_hash = current from session s
   where s.user_id = of_user and s.revoked_at is null and s.expires_at > at and s.seen_at > at - idle
   order by s.seen_at desc
$$;

create function know_device(hash bytea, of_user uuid) returns void
language sql security definer set search_path = public, pg_temp as $$
  insert into known_device (token_hash, user_id) values (hash, of_user)
  on conflict (token_hash) do update set user_id = excluded.user_id, seen_at = now()
$$;
create function device_is_known(hash bytea, of_user uuid) returns boolean
language sql stable security definer set search_path = public, pg_temp as $$
  select exists (select 1 from known_device where token_hash = hash and user_id = of_user)
$$;

-- What is over and of no use to anybody: sessions and links a month after their end, devices not seen for
-- a year, answers to requests nobody sends again, limits that ran out.
create function sweep() returns void
language plpgsql security definer set search_path = public, pg_temp as $$
begin
  delete from session where least(coalesce(revoked_at, expires_at), expires_at) < now() - interval '30 days';
  delete from password_link where least(coalesce(used_at, expires_at), expires_at) < now() - interval '30 days';
  delete from known_device where seen_at < now() - interval '1 year';
  delete from idempotency where begun_at < now() - interval '7 days';
  delete from sign_in_rate where expire is not null and expire < extract(epoch from now()) * 1000;
  delete from port_lease where until < now() - interval '1 day';
end $$;

do $$
declare
  f regprocedure;
begin
  for f in select p.oid::regprocedure from pg_proc p join pg_namespace n on n.oid = p.pronamespace
            where n.nspname = 'public' and p.proname in ('user_for_sign_in', 'add_user', 'change_user', 'set_password', 'change_password',
              'make_password_link', 'holder_of_password_link', 'use_password_link', 'open_session', 'use_session',
              'end_session', 'end_sessions', 'sessions_of', 'know_device', 'device_is_known', 'sweep', 'has_administrator',
              'make_setup_code', 'use_setup_code')
  loop
    execute format('revoke all on function %s from public', f);
    execute format('grant execute on function %s to outer_cairn_app', f);
  end loop;
end $$;
grant select on person to outer_cairn_app;
