import { openDatabase } from '@/db/database';
import { writeSettings } from '@/server/device/settings';

/** Begins a write to the logger and kills its own process before or after the device heard of it. */
const order = JSON.parse(process.argv[2]!) as {
  url: string;
  stationId: string;
  channelId: string;
  revisionId: string;
  actionId: string;
  moment: 'before' | 'after';
  personId: string;
  deviceAllow: string;
};
const real = globalThis.fetch;
globalThis.fetch = async (...args: Parameters<typeof fetch>) => {
  if (args[1]?.method !== 'PUT') return real(...args);
  if (order.moment === 'after') await real(...args);
  process.kill(process.pid, 'SIGKILL');
  return new Promise(() => {});
};
await writeSettings(
  {
    db: openDatabase(order.url),
    now: () => new Date(),
    deviceAllow: order.deviceAllow,
    person: { id: order.personId, name: 'technician', initials: 'IK', role: 'technician' },
  },
  order.stationId,
  order.channelId,
  { actionId: order.actionId, revisionId: order.revisionId },
);
