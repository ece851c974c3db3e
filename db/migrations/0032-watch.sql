-- Watch: what is watched of a channel, what rang, and what the application does by itself.

-- Whoever acts without a person: it stands where a person stands, and cannot sign in. No account may have such a name.
alter table app_user drop constraint app_user_role_check;
alter table app_user add constraint app_user_role_check
  check (role in ('viewer', 'technician', 'reviewer', 'administrator', 'system'));
insert into app_user (id, name, initials, role, disabled_at)
  values ('00000000-0000-7000-8000-000000000001', 'Outer Cairn', 'OC', 'system', now());

-- The newest rule of a channel counts. One that is not armed watches nothing.
create table watch_rule (
  station_id uuid not null references station,
  id uuid not null,
  channel_id uuid not null,
  number integer not null check (number > 0),
  rule jsonb not null,
  armed boolean not null,
  note text not null,
  person_id uuid not null references app_user,
  set_at timestamptz not null default now(),
  primary key (station_id, id),
  unique (station_id, channel_id, number),
  foreign key (station_id, channel_id) references channel
);
grant select, insert on watch_rule to outer_cairn_app;
create view watch_rule_in_force as
  select distinct on (station_id, channel_id) * from watch_rule order by station_id, channel_id, number desc;
grant select on watch_rule_in_force to outer_cairn_app;

-- How watching stands after what has arrived; what rings by it is in alarm.
create table watch_state (
  station_id uuid not null,
  channel_id uuid not null,
  rule_id uuid not null,
  -- Clock run and stamp of the last value looked at, and when it arrived, ms since 1970; 0 for none.
  run smallint not null,
  last_ms double precision not null,
  arrived_ms double precision not null,
  -- What is beyond, held or ringing; null where nothing is, as with most channels most of the time.
  state jsonb,
  -- When its newest value will be too old, if none arrives.
  silent_at timestamptz,
  primary key (station_id, channel_id),
  foreign key (station_id, rule_id) references watch_rule
);
create index watch_state_silent on watch_state (silent_at) where silent_at is not null;
grant select, insert, update on watch_state to outer_cairn_app;

create table alarm (
  station_id uuid not null references station,
  id uuid not null,
  channel_id uuid not null,
  rule_id uuid not null,
  -- Of several that one cause explains, as when nothing arrives from a logger: the first of them.
  group_id uuid not null,
  cause text not null check (cause in ('limits', 'rate', 'twin', 'silent')),
  -- Stamps of the value it began with, and of the one it rang with.
  began_at timestamptz not null,
  stamp timestamptz not null,
  value double precision,
  -- When it could be known, and when the application got round to it.
  raised_at timestamptz not null,
  recorded_at timestamptz not null default clock_timestamp(),
  level smallint not null check (level between -2 and 2),
  worst smallint not null check (worst between -2 and 2),
  peak double precision,
  returned_at timestamptz,
  over_stamp timestamptz,
  ended text check (ended in ('back', 'hours', 'gate', 'rule')),
  acknowledged_at timestamptz,
  acknowledged_by uuid references app_user,
  acknowledged_reason text,
  primary key (station_id, id),
  foreign key (station_id, channel_id) references channel,
  foreign key (station_id, rule_id) references watch_rule,
  -- One ring is one alarm, however often it is reckoned.
  unique (station_id, rule_id, cause, raised_at, stamp),
  check (num_nulls(returned_at, ended) in (0, 2)),
  check (num_nulls(acknowledged_at, acknowledged_by, acknowledged_reason) in (0, 3))
);
create unique index alarm_one_ringing on alarm (station_id, channel_id, cause) where returned_at is null;
create index alarm_recent on alarm (raised_at desc);
grant select, insert on alarm to outer_cairn_app;
grant update (level, worst, peak, returned_at, over_stamp, ended, acknowledged_at, acknowledged_by, acknowledged_reason)
  on alarm to outer_cairn_app;
create trigger closed before update on alarm for each row
  when (old.returned_at is not null and
        (new.returned_at, new.level, new.worst, new.peak, new.ended)
          is distinct from (old.returned_at, old.level, old.worst, old.peak, old.ended))
  execute function refuse_rewrite('alarm', 'alarm_over');
create trigger acknowledged before update on alarm for each row
  when (old.acknowledged_at is not null and
        (new.acknowledged_at, new.acknowledged_by) is distinct from (old.acknowledged_at, old.acknowledged_by))
  execute function refuse_rewrite('alarm', 'alarm_acknowledged');

-- What became of an alarm, by whom: a person, the rule, or the application by itself.
create table alarm_event (
  station_id uuid not null,
  alarm_id uuid not null,
  number integer not null,
  kind text not null check (kind in ('raised', 'worse', 'eased', 'returned', 'acknowledged', 'ended')),
  at timestamptz not null,
  actor text not null check (actor in ('person', 'rule', 'system')),
  person_id uuid references app_user,
  says text not null,
  primary key (station_id, alarm_id, number),
  foreign key (station_id, alarm_id) references alarm,
  check ((actor = 'person') = (person_id is not null))
);
grant select, insert on alarm_event to outer_cairn_app;

-- Alarms of a channel that nobody is told of until an instant: they are raised and kept all the same.
create table alarm_shelf (
  station_id uuid not null references station,
  id uuid not null,
  channel_id uuid not null,
  from_at timestamptz not null,
  until_at timestamptz not null check (until_at > from_at),
  reason text not null check (reason <> ''),
  person_id uuid not null references app_user,
  ended_at timestamptz,
  ended_by uuid references app_user,
  primary key (station_id, id),
  foreign key (station_id, channel_id) references channel,
  check (num_nulls(ended_at, ended_by) in (0, 2))
);
create index alarm_shelf_of on alarm_shelf (station_id, channel_id, until_at desc);
grant select, insert on alarm_shelf to outer_cairn_app;
grant update (ended_at, ended_by) on alarm_shelf to outer_cairn_app;
create trigger closed before update on alarm_shelf for each row when (old.ended_at is not null)
  execute function refuse_rewrite('shelf', 'alarm_shelf_ended');

-- How often the application asks a logger for its record by itself. The newest row counts; null for by hand.
create table collect_schedule (
  station_id uuid not null references station,
  id uuid not null,
  every_seconds integer check (every_seconds between 60 and 86400),
  person_id uuid not null references app_user,
  set_at timestamptz not null default now(),
  primary key (station_id, id)
);
grant select, insert on collect_schedule to outer_cairn_app;
create view collect_schedule_in_force as
  select distinct on (station_id) * from collect_schedule order by station_id, set_at desc, id desc;
grant select on collect_schedule_in_force to outer_cairn_app;

-- Who is told of alarms, and how. A secret signs what is sent to an address of the web.
create table alarm_receiver (
  id uuid primary key,
  kind text not null check (kind in ('mail', 'webhook')),
  name text not null check (name <> ''),
  address text not null check (address <> ''),
  secret text,
  -- 1: of any alarm; 2: only of what is far too low or far too high, and of silences.
  least smallint not null check (least in (1, 2)),
  -- Told where nobody has acknowledged for so long; 0 at once.
  after_seconds integer not null check (after_seconds between 0 and 86400),
  person_id uuid not null references app_user,
  added_at timestamptz not null default now(),
  retired_at timestamptz,
  retired_by uuid references app_user,
  check ((kind = 'webhook') = (secret is not null)),
  check (num_nulls(retired_at, retired_by) in (0, 2))
);
grant select, insert on alarm_receiver to outer_cairn_app;
grant update (retired_at, retired_by) on alarm_receiver to outer_cairn_app;

-- What is to be said, once for each receiver and turn of an alarm. It may be sent more than once, under one id.
create table alarm_message (
  station_id uuid not null,
  id uuid not null,
  alarm_id uuid not null,
  receiver_id uuid not null references alarm_receiver,
  turn text not null check (turn in ('raised', 'worse', 'returned')),
  says text not null,
  due_at timestamptz not null,
  state text not null default 'waiting' check (state in ('waiting', 'sent', 'failed', 'not needed')),
  attempts integer not null default 0,
  settled_at timestamptz,
  note text not null default '',
  primary key (station_id, id),
  unique (station_id, alarm_id, receiver_id, turn),
  foreign key (station_id, alarm_id) references alarm,
  check ((state = 'waiting') = (settled_at is null))
);
create index alarm_message_waiting on alarm_message (due_at) where state = 'waiting';
grant select, insert on alarm_message to outer_cairn_app;
grant update (state, attempts, settled_at, note) on alarm_message to outer_cairn_app;
create trigger closed before update on alarm_message for each row when (old.settled_at is not null)
  execute function refuse_rewrite('message', 'alarm_message_settled');

-- A rule that was proved by provoking it: it rang, somebody was told, it was over again, the limits are back.
create table alarm_proof (
  station_id uuid not null references station,
  id uuid not null,
  channel_id uuid not null,
  -- The rule that is proved, and the one that stands meanwhile where limits were tightened.
  rule_id uuid not null,
  tightened_id uuid,
  told text not null check (told <> ''),
  person_id uuid not null references app_user,
  begun_at timestamptz not null,
  -- The limits come back by themselves then.
  restore_by timestamptz not null,
  restored_at timestamptz,
  restored_by uuid references app_user,
  alarm_id uuid,
  received_at timestamptz,
  received_by uuid references app_user,
  ended_at timestamptz,
  outcome text check (outcome in ('proved', 'broken off')),
  note text,
  primary key (station_id, id),
  foreign key (station_id, channel_id) references channel,
  foreign key (station_id, rule_id) references watch_rule,
  foreign key (station_id, tightened_id) references watch_rule,
  foreign key (station_id, alarm_id) references alarm,
  check (num_nulls(ended_at, outcome, note) in (0, 3)),
  check (num_nulls(restored_at, restored_by) in (0, 2)),
  check (num_nulls(received_at, received_by) in (0, 2))
);
create unique index alarm_proof_one_open on alarm_proof (station_id, channel_id) where ended_at is null;
create index alarm_proof_of on alarm_proof (station_id, channel_id, begun_at desc);
grant select, insert on alarm_proof to outer_cairn_app;
grant update (restored_at, restored_by, alarm_id, received_at, received_by, ended_at, outcome, note)
  on alarm_proof to outer_cairn_app;
create trigger closed before update on alarm_proof for each row when (old.ended_at is not null)
  execute function refuse_rewrite('proof', 'alarm_proof_ended');

-- Work that has to be done once, whoever does it: the tables and functions of the job queue, made by its own migrations.
grant usage on schema graphile_worker to outer_cairn_app;
grant select on graphile_worker.migrations, graphile_worker.jobs to outer_cairn_app;
grant select, insert, update, delete on graphile_worker._private_jobs to outer_cairn_app;
grant select, insert, update on graphile_worker._private_job_queues, graphile_worker._private_tasks,
  graphile_worker._private_known_crontabs to outer_cairn_app;
create policy application on graphile_worker._private_jobs to outer_cairn_app using (true) with check (true);
create policy application on graphile_worker._private_job_queues to outer_cairn_app using (true) with check (true);
create policy application on graphile_worker._private_tasks to outer_cairn_app using (true) with check (true);
create policy application on graphile_worker._private_known_crontabs to outer_cairn_app using (true) with check (true);
