import { Sequelize, type FindOptions, type Model, type ModelStatic, type Transaction } from 'sequelize';
import { parsed } from './table';
import { defineTables, type Tables } from './tables';

export interface Database extends Tables {
  readonly sequelize: Sequelize;
  /** Runs `work` in one transaction: all of it lands or none. */
  transact<T>(work: (tx: Transaction) => Promise<T>): Promise<T>;
}

/** Opens a pool on a PostgreSQL URL and defines the tables on it. */
export function openDatabase(url: string): Database {
  const sequelize = new Sequelize(url, {
    dialect: 'postgres',
    logging: false,
    pool: { max: 10, min: 0, idle: 10_000, acquire: 8_000 },
    dialectOptions: {
      application_name: 'outer-cairn',
      connectionTimeoutMillis: 4_000,
      // Long work sets its own in its transaction, see longWork().
      statement_timeout: 30_000,
      lock_timeout: 8_000,
      idle_in_transaction_session_timeout: 60_000,
    },
    retry: { max: 0 },
  });
  return {
    ...defineTables(sequelize),
    sequelize,
    transact: (work) => sequelize.transaction(work),
  };
}

const held = globalThis as { outerCairnDatabase?: Database };

/**
 * The process's database. Kept on globalThis because the framework may load this module once per
 * bundle, and one process wants one pool.
 */
export function database(): Database {
  if (!held.outerCairnDatabase) {
    const url = process.env.DATABASE_URL;
    if (!url) throw new Error('DATABASE_URL is not set');
    held.outerCairnDatabase = openDatabase(url);
  }
  return held.outerCairnDatabase;
}

/**
 * Lets a transaction last as long as its work: a COPY is one statement however long the file, and an import
 * waits for whoever stores at its station. What ends it is its own limit, or somebody who cancels it.
 */
export async function longWork(db: Database, tx: Transaction): Promise<void> {
  for (const limit of ['statement_timeout', 'lock_timeout', 'idle_in_transaction_session_timeout'])
    await db.sequelize.query(`set local ${limit} = 0`, { transaction: tx });
}

/** Closes the pool; the next `database()` opens another. */
export async function closeDatabase(): Promise<void> {
  const open = held.outerCairnDatabase;
  held.outerCairnDatabase = undefined;
  await open?.sequelize.close();
}

/** Rows of a table as plain data; JSON by the parser of its column. */
export async function rows<Row extends object>(
  table: ModelStatic<Model<Row, Partial<Row>>>,
  options: FindOptions = {},
): Promise<Row[]> {
  const found = (await table.findAll({ ...options, raw: true } as never)) as unknown as Row[];
  return found.map((r) => parsed(table, r));
}

/** The first row that fits as plain data, or null. */
export async function row<Row extends object>(
  table: ModelStatic<Model<Row, Partial<Row>>>,
  options: FindOptions = {},
): Promise<Row | null> {
  const found = (await table.findOne({ ...options, raw: true } as never)) as unknown as Row | null;
  return found && parsed(table, found);
}

/** Rows of a hand-written query. JSON in them is as it is stored: read it by its kind in db/stored/. */
export async function query<Row extends object>(
  db: Database,
  sql: string,
  replacements: Record<string, unknown> = {},
  transaction?: Transaction,
): Promise<Row[]> {
  const { QueryTypes } = await import('sequelize');
  return (await db.sequelize.query(sql, { type: QueryTypes.SELECT, replacements, transaction })) as Row[];
}

type Asked<T extends readonly (() => Promise<unknown>)[]> = { [K in keyof T]: Awaited<ReturnType<T[K]>> };

/** Asks several things: all at once over the pool, or one after the other on the connection of a transaction. */
export async function askAll<const T extends readonly (() => Promise<unknown>)[]>(
  tx: Transaction | undefined,
  questions: T,
): Promise<Asked<T>> {
  if (!tx) return (await Promise.all(questions.map((ask) => ask()))) as Asked<T>;
  const answers: unknown[] = [];
  for (const ask of questions) answers.push(await ask());
  return answers as Asked<T>;
}

/** Name of the database rule (a unique index, a check) that an error says was broken; null for any other error. */
export const brokenRule = (error: unknown): string | null =>
  (error as { parent?: { constraint?: string } }).parent?.constraint ?? null;
