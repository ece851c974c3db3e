import { readFile, readdir } from 'node:fs/promises';
import path from 'node:path';
import { runMigrations } from 'graphile-worker';
import { Client } from 'pg';
import { Sequelize } from 'sequelize';
import { SequelizeStorage, Umzug } from 'umzug';
import { silent } from './jobs';
import { schemaLock } from './roles';

const folder = path.join(process.cwd(), 'db', 'migrations');

/**
 * Brings a database to the newest schema, as its owner. Each migration is one transaction; of two who
 * migrate at once the second waits and finds it done.
 */
export async function migrate(ownerUrl: string): Promise<string[]> {
  const gate = new Client({ connectionString: ownerUrl });
  await gate.connect();
  const sequelize = new Sequelize(ownerUrl, { dialect: 'postgres', logging: false });
  try {
    await gate.query('select pg_advisory_lock($1, $2)', [...schemaLock]);
    // The job queue keeps its own schema; ours gives the application its place in it.
    await runMigrations({ connectionString: ownerUrl, logger: silent });
    const files = (await readdir(folder)).filter((f) => f.endsWith('.sql')).sort();
    const umzug = new Umzug({
      migrations: files.map((name) => ({
        name,
        up: async () => {
          const sql = await readFile(path.join(folder, name), 'utf8');
          await sequelize.transaction((transaction) => sequelize.query(sql, { transaction, raw: true }));
        },
      })),
      storage: new SequelizeStorage({ sequelize, tableName: 'migration' }),
      logger: undefined,
    });
    return (await umzug.up()).map((m) => m.name);
  } finally {
    await sequelize.close();
    await gate.end();
  }
}
