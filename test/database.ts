import { Client } from 'pg';
import { openDatabase, type Database } from '@/db/database';
import { urlOf } from './globalSetup';

export interface TestDatabase {
  readonly db: Database;
  readonly appUrl: string;
  readonly superUrl: string;
  /** Does to the database what the application's own role may not: a test that arranges the past. */
  arrange(sql: string, values?: readonly unknown[]): Promise<void>;
  close(): Promise<void>;
}

let count = 0;

/** A database of this test file's own, cloned from the template, opened as the application's role. */
export async function testDatabase(): Promise<TestDatabase> {
  const superUrl = process.env.SUPER_URL!;
  const name = `cairn_w${process.env.JEST_WORKER_ID ?? '0'}_${process.pid}_${count++}`;
  const run = async (sql: string) => {
    const client = new Client({ connectionString: superUrl });
    await client.connect();
    await client.query(sql).finally(() => client.end());
  };
  // Cloning fails while another worker clones: the template may have one user at a time.
  for (let attempt = 0; ; attempt++) {
    try {
      await run(`create database ${name} template cairn_template owner outer_cairn_owner`);
      break;
    } catch (error) {
      if (attempt > 40) throw error;
      await new Promise((r) => setTimeout(r, 150));
    }
  }
  const appUrl = urlOf(superUrl, 'outer_cairn_app', process.env.APP_PASSWORD!, name);
  const db = openDatabase(appUrl);
  const ownUrl = urlOf(superUrl, 'superuser', new URL(superUrl).password, name);
  return {
    db,
    appUrl,
    superUrl: ownUrl,
    async arrange(sql, values = []) {
      const client = new Client({ connectionString: ownUrl });
      await client.connect();
      await client.query(sql, [...values]).finally(() => client.end());
    },
    async close() {
      await db.sequelize.close();
      await run(`drop database if exists ${name} with (force)`);
    },
  };
}
