import { Client } from 'pg';

export interface RolePasswords {
  readonly owner: string;
  readonly app: string;
}

export const ownerRole = 'outer_cairn_owner';
export const appRole = 'outer_cairn_app';

/** Makes the two roles and an empty database, as the cluster's superuser. Safe to repeat. */
export async function ensureRolesAndDatabase(
  superUrl: string,
  name: string,
  passwords: RolePasswords,
): Promise<void> {
  const client = new Client({ connectionString: superUrl });
  await client.connect();
  try {
    for (const [role, password] of [
      [ownerRole, passwords.owner],
      [appRole, passwords.app],
    ] as const) {
      const { rowCount } = await client.query('select 1 from pg_roles where rolname = $1', [role]);
      const verb = rowCount ? 'alter' : 'create';
      await client.query(`${verb} role ${role} login password ${client.escapeLiteral(password)}`);
    }
    const { rowCount } = await client.query('select 1 from pg_database where datname = $1', [name]);
    if (!rowCount) await client.query(`create database ${client.escapeIdentifier(name)} owner ${ownerRole}`);
  } finally {
    await client.end();
  }
}
