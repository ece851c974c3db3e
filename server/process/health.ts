import { database, query } from '@/db/database';

/** Whether the database answers. */
export async function health(): Promise<{ application: 'up'; database: 'up' | 'away' }> {
  try {
    await query(database(), 'select 1 as x');
    return { application: 'up', database: 'up' };
  } catch {
    return { application: 'up', database: 'away' };
  }
}
