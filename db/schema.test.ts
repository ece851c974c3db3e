import type { Model, ModelStatic } from 'sequelize';
import { testDatabase, type TestDatabase } from '@/test/database';
import { query } from './database';

/**
 * The models of db/tables.ts against the database that the migrations make: a column without its
 * model, a model without its column, or another type fails here.
 */
let test_: TestDatabase;
beforeAll(async () => (test_ = await testDatabase()));
afterAll(() => test_.close());

/** What the application reaches by SQL alone: bulk paths, caches, locks, what only functions may write. */
const withoutModel = [
  'active_layer',
  'channel_rests_on',
  'channel_standing',
  'channel_word',
  'clock_compared',
  'clock_comparison_taken_back',
  'collect_schedule_in_force',
  'derived_mark',
  'finding',
  'import_issue',
  'named_channel',
  'open_station',
  'port_lease',
  'reading',
  'reading_rollup',
  'sign_in_rate',
  'standing_mark',
  'station_urgency',
  'written_setting',
];
/** Columns the database numbers by itself, for the order of what was written in one instant. */
const withoutField = ['layer.seq'];
const types: Readonly<Record<string, readonly string[]>> = {
  UUID: ['uuid'],
  TEXT: ['text', 'USER-DEFINED'],
  INTEGER: ['integer', 'smallint', 'bigint'],
  DOUBLE: ['double precision', 'bigint', 'real'],
  DATE: ['timestamp with time zone'],
  DATEONLY: ['date'],
  JSONB: ['jsonb'],
  BOOLEAN: ['boolean'],
  BLOB: ['bytea'],
};

interface ColumnFact {
  table: string;
  column: string;
  type: string;
}
const columnsInDatabase = () =>
  query<ColumnFact>(
    test_.db,
    `select table_name as "table", column_name as "column", data_type as type
       from information_schema.columns where table_schema = 'public' order by 1, 2`,
  );
const columnsInModels = () =>
  Object.values(test_.db.sequelize.models as Record<string, ModelStatic<Model>>).flatMap((model) =>
    Object.values(model.getAttributes()).map((a) => ({
      table: String(model.getTableName()),
      column: a.field!,
      type: (a.type as { key: string }).key.replace('DOUBLE PRECISION', 'DOUBLE'),
    })),
  );

test('every column has its model, and every model its column, of one type', async () => {
  const real = await columnsInDatabase();
  const known = columnsInModels();
  const nameOf = (c: { table: string; column: string }) => `${c.table}.${c.column}`;
  const modelled = new Set(known.map((c) => c.table));
  const realNames = real
    .filter((c) => modelled.has(c.table))
    .map(nameOf)
    .filter((c) => !withoutField.includes(c));
  expect(known.map(nameOf).sort()).toEqual(realNames.sort());
  for (const c of known) {
    const { type } = real.find((r) => nameOf(r) === nameOf(c))!;
    expect([nameOf(c), types[c.type]?.includes(type) ? c.type : `${c.type} over ${type}`]).toEqual([
      nameOf(c),
      c.type,
    ]);
  }
});

test('a table is modelled, or listed as one that is reached by SQL alone', async () => {
  const modelled = new Set(columnsInModels().map((c) => c.table));
  const tables = new Set((await columnsInDatabase()).map((c) => c.table));
  expect([...tables].filter((t) => !modelled.has(t) && !/^reading_\d{4}$/.test(t)).sort()).toEqual(
    withoutModel,
  );
});
