import { Client } from 'pg';
import { testDatabase, type TestDatabase } from '@/test/database';
import { query } from './database';

let test_: TestDatabase;
beforeAll(async () => {
  test_ = await testDatabase();
});
afterAll(() => test_.close());
const run = (sql: string) => test_.db.sequelize.query(sql);

describe('append-only by privilege: what the application’s own role cannot do', () => {
  test.each([
    'update audit set action = $$x$$',
    'delete from audit',
    'truncate audit',
    'update reading set value = 0',
    'delete from reading',
    'truncate reading',
    'drop table reading',
    'update layer set reason = $$x$$',
    'delete from layer',
    'update adjustment set resulting = 0',
    'delete from adjustment',
    'update field_book_line set text = $$x$$',
    'delete from field_book_line',
    'update import_issue set why = $$x$$',
    'delete from import_issue',
    'update clock_run set run = 9',
    'delete from quality_setting',
    'delete from record_import',
    'delete from reference_check',
    'delete from check_reading',
    'delete from observation',
    'delete from found_off',
    'update calibration set due_on = $$2099-01-01$$',
    'delete from calibration',
    'update instrument_care set care = $${}$$',
    'delete from instrument_care',
    'update cross_check set pairs = $$[]$$',
    'delete from cross_check',
    'update found_off set off_by = 1',
    'delete from device_action',
    'alter table reading add column x int',
    'create table mine (x int)',
    'create role other',
    'alter role outer_cairn_app superuser',
    'update migration set name = $$x$$',
    // What is closed by some columns is rewritten by none of the others.
    'update check_reading set settling = $${}$$',
    'update observation set value = 0',
    'update reference_check set plan = $${}$$',
    'update reference_check set opened_by = gen_random_uuid()',
    'update device_action set intent = $${}$$',
    'update setting_revision set settings = $${}$$',
    'update record_import set plan = $${}$$',
    'insert into reading_rollup select * from reading_rollup',
    'update reading_rollup set sum = 0',
    'delete from reading_rollup',
    'insert into app_user select * from app_user',
    'update app_user set role = $$administrator$$',
    'select password_hash from app_user',
    'select * from session',
    'insert into session (token_hash, user_id, expires_at) values ($$x$$, gen_random_uuid(), now())',
    'select * from password_link',
    'insert into audit (at, action) values (now(), $$x$$)',
    'update station set id = gen_random_uuid()',
    'update logger set serial = $$x$$',
    'update logger set model = $$x$$',
    'update port set name = $$x$$',
    'update wiring_plan set body = $${}$$',
    'delete from wiring_plan',
    'update photograph set picture = $$x$$',
    'update photograph set taken_at = now()',
    'delete from photograph',
    'update meter set ranges = $${}$$',
    'delete from meter',
    'update own_circuit set body = $${}$$',
    'delete from own_circuit',
    'update bench_session set setup = $${}$$',
    'update bench_session set opened_at = now()',
    'update bench_reading set shows = 0',
    'delete from bench_reading',
    'update cross_section set points = $$[]$$',
    'update gauging set sheet = $${}$$',
    'update k_curve set forward = $$[]$$',
    'delete from k_curve',
    'update level_rating set segments = $$[]$$',
    'delete from level_rating',
    'update watch_rule set rule = $${}$$',
    'delete from watch_rule',
    'update alarm set raised_at = now()',
    'delete from alarm',
    'update alarm_event set says = $$x$$',
    'delete from alarm_event',
    'update alarm_shelf set until_at = now()',
    'update alarm_message set says = $$x$$',
    'delete from alarm_message',
    'update alarm_receiver set secret = $$x$$',
    'update alarm_proof set told = $$x$$',
    'delete from alarm_proof',
    'update collect_schedule set every_seconds = 60',
    'create table graphile_worker.mine (x int)',
    'update level_reading set read = $${}$$',
    'update level_reading set elevation = 0',
    'delete from level_reading',
    'update level_survey set sheet = null',
    'delete from level_survey',
    'update point_elevation set elevation = 0',
    'update level_revision set adds = 0',
    'update station_datum set name = $$x$$',
    'update measuring_point set kind = $$staff$$',
    'update handheld_reading set value = 0',
    'delete from handheld_reading',
    'update handheld_assignment set station_id = gen_random_uuid()',
    'update visit_signature set sha256 = $$x$$',
    'delete from visit_signature',
    'update departure set left_at = now()',
    'delete from departure',
    'update left_open set reason = $$x$$',
    'delete from left_open',
    'update arrival set arrived_at = now()',
    'update hazard_acknowledged set caution = $$x$$',
    'update checklist_line set says = $$x$$',
    'delete from checklist_tick',
    'update line_session set layers = $$[]$$',
    'delete from line_session',
    'update logger_label set log_in = $$changed$$',
    'delete from logger_firmware',
    'update deployment set launched_at = now()',
    'delete from deployment',
    'update deployment_stamp set at = now()',
    'delete from deployment_stamp',
    'update recovery_step set evidence = $${}$$',
    'delete from recovery_step',
    'update recovery set installation_id = gen_random_uuid()',
    'update reference_instrument set due_on = $$2099-01-01$$',
  ])('%s', async (sql) => {
    await expect(run(sql)).rejects.toThrow(/permission denied|must be (owner|superuser)/);
  });
  test('the owner’s tables are all accounted for: none grants more than was meant', async () => {
    const grants = await query<{ table: string; what: string }>(
      test_.db,
      `select table_name as "table", string_agg(privilege_type, ' ' order by privilege_type) as what from information_schema.role_table_grants
        where grantee = 'outer_cairn_app' and table_name in ('reading', 'layer', 'audit', 'adjustment', 'field_book_line') group by 1`,
    );
    expect(grants).toHaveLength(5);
    for (const g of grants) expect(g.what).toBe(g.table === 'audit' ? 'SELECT' : 'INSERT SELECT');
    // The audit is stamped by the database: everything but its time and number may be said.
    const columns = await query<{ c: string }>(
      test_.db,
      `select column_name as c from information_schema.role_column_grants
        where grantee = 'outer_cairn_app' and table_name = 'audit' and privilege_type = 'INSERT' order by 1`,
    );
    expect(columns.map((x) => x.c)).toEqual(['action', 'person_id', 'station_id', 'subject']);
  });
});

describe('the session a connection gets', () => {
  test('statements, locks and idle transactions have an end', async () => {
    for (const name of ['statement_timeout', 'lock_timeout', 'idle_in_transaction_session_timeout']) {
      const [setting] = await query<{ s: string }>(test_.db, `select current_setting('${name}') as s`);
      expect(setting!.s).not.toBe('0');
    }
  });
  test('no other database of the cluster can be opened', async () => {
    for (const database of ['postgres', 'template1']) {
      const client = new Client({ connectionString: test_.appUrl.replace(/\/[^/]*$/, `/${database}`) });
      await expect(client.connect()).rejects.toThrow(/permission denied for database/);
    }
  });
});

describe('partitions', () => {
  test('are made for a year by the function, also twice and at once; a wild year is refused', async () => {
    await Promise.all([
      run('select ensure_reading_partition(2031)'),
      run('select ensure_reading_partition(2031)'),
    ]);
    await run('select ensure_reading_partition(2031)');
    const made = await query(test_.db, `select 1 from pg_class where relname = 'reading_y2031'`);
    expect(made).toHaveLength(1);
    await expect(run('select ensure_reading_partition(1604)')).rejects.toThrow(/outside 1700–2200/);
    await expect(run('delete from reading_y2031')).rejects.toThrow(/permission denied/);
  });
  test('the function cannot be led astray by a search path', async () => {
    const client = new Client({ connectionString: test_.superUrl });
    await client.connect();
    const { rows } = await client.query(
      `select proconfig::text as c, prosecdef from pg_proc where proname = 'ensure_reading_partition'`,
    );
    await client.end();
    expect(rows[0]).toEqual({
      c: expect.stringContaining('search_path=public, pg_temp') as string,
      prosecdef: true,
    });
  });
});

describe('what the schema itself keeps true', () => {
  test.each([
    [
      'an outcome without an end',
      `insert into reference_check (station_id, id, channel_id, installation_id, instrument_id, plan, opened_at, opened_by, outcome) select gen_random_uuid(), gen_random_uuid(), gen_random_uuid(), gen_random_uuid(), gen_random_uuid(), '{}', now(), gen_random_uuid(), 'agree'`,
    ],
    ['a role that is none', `select add_user(gen_random_uuid(), 'x', 'x', 'king', 'x')`],
    [
      'an empty reason',
      `insert into layer (station_id, id, channel_id, kind, from_at, reason, person_id) select gen_random_uuid(), gen_random_uuid(), gen_random_uuid(), 'flag', now(), '', gen_random_uuid()`,
    ],
  ])('%s is refused', async (_, sql) => {
    await expect(run(sql)).rejects.toThrow(/violates|constraint/);
  });
});
