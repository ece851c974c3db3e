import type { Database } from '@/db/database';
import type { Context, Person } from '@/server/context';
import type { SimState } from '@/simulator/state';

export interface Play {
  readonly db: Database;
  readonly state: SimState;
  readonly now: number;
  readonly people: Readonly<Record<'technician' | 'colleague' | 'reviewer' | 'viewer' | 'admin', Person>>;
  /** Acts at an instant: the world's clock stands there too. */
  at(ms: number, person?: Person): Context;
}
