import type { Database } from '@/db/database';
import type { Context, Person } from './context';

/**
 * Who acts where no person does: the application by itself, as when it asks a logger for its record in time
 * or puts limits back. It stands wherever a person stands, and cannot sign in.
 */
export const systemPerson: Person = {
  id: '00000000-0000-7000-8000-000000000001',
  name: 'Outer Cairn',
  initials: 'OC',
  role: 'technician',
};

export const systemContext = (
  db: Database,
  deviceAllow: string,
  now: () => Date = () => new Date(),
): Context => ({
  db,
  person: systemPerson,
  now,
  deviceAllow,
});
