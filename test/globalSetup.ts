import { execFileSync } from 'node:child_process';
import { Client } from 'pg';

/** Makes the template database that each test file clones; the cluster comes from scripts/test.mjs. */
export default async function globalSetup(): Promise<void> {
  const { SUPER_URL, OWNER_PASSWORD, APP_PASSWORD } = process.env;
  if (!SUPER_URL || !OWNER_PASSWORD || !APP_PASSWORD)
    throw new Error(
      'SUPER_URL, OWNER_PASSWORD, APP_PASSWORD are not set: run "npm test", or "npm test -- integration"',
    );
  const { ensureRolesAndDatabase } = await import('../db/roles');
  const template = 'cairn_template';
  const client = new Client({ connectionString: SUPER_URL });
  await client.connect();
  await client.query(`drop database if exists ${template} with (force)`);
  await client.end();
  await ensureRolesAndDatabase(SUPER_URL, template, { owner: OWNER_PASSWORD, app: APP_PASSWORD });
  // In a process of its own, as an operator does it: Jest maps no paths in here.
  execFileSync(process.execPath, ['--import', 'tsx', 'scripts/migrate.ts'], {
    env: {
      ...process.env,
      SUPER_URL: '',
      OWNER_URL: urlOf(SUPER_URL, 'outer_cairn_owner', OWNER_PASSWORD, template),
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
}

export function urlOf(superUrl: string, role: string, password: string, database: string): string {
  const url = new URL(superUrl);
  url.username = role;
  url.password = password;
  url.pathname = `/${database}`;
  return url.toString();
}
