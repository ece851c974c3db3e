import { openDatabase } from '@/db/database';
import { writeSettings } from '@/server/device/settings';
import { writeAll } from '@/server/device/wholeLogger';

/** Begins a write to the logger, or of all that is staged, and kills its own process before or after the device heard of the n-th. */
const order = JSON.parse(process.argv[2]!) as {
  url: string;
  stationId: string;
  /** One channel; without it all that is staged, as this operation. */
  one?: { channelId: string; revisionId: string; actionId: string };
  operationId?: string;
  nth: number;
  moment: 'before' | 'after';
  personId: string;
  deviceAllow: string;
};
const real = globalThis.fetch;
let writes = 0;
globalThis.fetch = async (...args: Parameters<typeof fetch>) => {
  if (args[1]?.method !== 'PUT' || ++writes < order.nth) return real(...args);
  if (order.moment === 'after') await real(...args);
  process.kill(process.pid, 'SIGKILL');
  return new Promise(() => {});
};
const ctx = {
  db: openDatabase(order.url),
  now: () => new Date(),
  deviceAllow: order.deviceAllow,
  person: { id: order.personId, name: 'technician', initials: 'IK', role: 'technician' as const },
};
if (order.one) {
  const { channelId, ...write } = order.one;
  await writeSettings(ctx, order.stationId, channelId, write);
} else await (await writeAll(ctx, order.stationId, order.operationId!)).done;
