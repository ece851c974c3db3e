import { Client } from 'pg';

export interface RolePasswords {
  /** Null leaves a role's password as it is; a role that has to be made needs one. */
  readonly owner: string | null;
  readonly app: string | null;
}

export const ownerRole = 'outer_cairn_owner';
export const appRole = 'outer_cairn_app';
/** Class and number of the advisory lock under which roles, database and schema are made. */
export const schemaLock = [4710, 0] as const;

/**
 * Makes the two roles and an empty database, as the cluster's superuser. Safe to repeat, also twice at
 * once; a password that was not given is not touched. Nobody but the owner, the application and
 * superusers may open the database, and neither role the cluster's own ones.
 */
export async function ensureRolesAndDatabase(
  superUrl: string,
  name: string,
  passwords: RolePasswords,
): Promise<void> {
  const client = new Client({ connectionString: superUrl });
  await client.connect();
  try {
    await client.query('select pg_advisory_lock($1, $2)', [...schemaLock]);
    for (const [role, password, variable] of [
      [ownerRole, passwords.owner, 'OWNER_PASSWORD'],
      [appRole, passwords.app, 'APP_PASSWORD'],
    ] as const) {
      const { rowCount } = await client.query('select 1 from pg_roles where rolname = $1', [role]);
      if (!password) {
        if (!rowCount)
          throw new Error(
            `the role ${role} is not there yet: give the password it shall have as ${variable}`,
          );
        continue;
      }
      const verb = rowCount ? 'alter' : 'create';
      await client.query(`${verb} role ${role} login password ${client.escapeLiteral(password)}`);
    }
    const { rowCount } = await client.query('select 1 from pg_database where datname = $1', [name]);
    const database = client.escapeIdentifier(name);
    if (!rowCount) await client.query(`create database ${database} owner ${ownerRole}`);
    await client.query(`revoke connect, temporary on database ${database} from public`);
    await client.query(`grant connect, temporary on database ${database} to ${ownerRole}, ${appRole}`);
  } finally {
    // Closing the connection gives the lock back.
    await client.end();
  }
}
