import { openDatabase, type Database } from '@/db/database';
import { migrate } from '@/db/migrate';
import { ensureRolesAndDatabase } from '@/db/roles';
import { addUser } from '@/server/account/people';
import { addStation } from '@/server/administer/addStation';
import type { Context } from '@/server/context';
import { plainStation } from '@/test/plainStation';

export interface BenchWorld {
  readonly db: Database;
  readonly ctx: Context;
  readonly superUrl: string;
  readonly stationId: string;
}

/** An empty database of the bench's own with one station. */
export async function benchWorld(): Promise<BenchWorld> {
  const { SUPER_URL, OWNER_URL, BENCH_URL, OWNER_PASSWORD, APP_PASSWORD } = process.env;
  await ensureRolesAndDatabase(SUPER_URL!, 'bench', { owner: OWNER_PASSWORD!, app: APP_PASSWORD! });
  await migrate(OWNER_URL!);
  const db = openDatabase(BENCH_URL!);
  const person = await addUser(db, {
    name: 'bench',
    initials: 'BE',
    role: 'administrator',
    password: 'long enough for it',
  });
  const ctx: Context = { db, person, now: () => new Date(), deviceAllow: '' };
  const { stationId } = await addStation(ctx, plainStation('BENCH-1'));
  return { db, ctx, superUrl: SUPER_URL!.replace(/\/postgres$/, '/bench'), stationId };
}

/** A believable minute-by-minute air temperature: a pure function of its index. */
export function minuteValue(i: number): number {
  const day = (i / 1440) * 2 * Math.PI;
  return (
    9 + 6 * Math.sin(day / 365.25) + 3 * Math.sin(day) + 0.4 * Math.sin(i / 7.3) + ((i * 7919) % 17) / 100
  );
}
