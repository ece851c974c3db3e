import { openDatabase } from '@/db/database';
import { newId } from '@/server/id';
import { talk } from '@/server/device/talk';

/** Talks to one sensor several times from a process of its own and reports what came of it. */
const order = JSON.parse(process.argv[2]!) as {
  url: string;
  stationId: string;
  installationId: string;
  personId: string;
  deviceAllow: string;
  times: number;
  now: number;
};
const ctx = {
  db: openDatabase(order.url),
  now: () => new Date(order.now),
  deviceAllow: order.deviceAllow,
  person: { id: order.personId, name: 'technician', initials: 'IK', role: 'technician' as const },
};
const faults: (string | null)[] = [];
for (let i = 0; i < order.times; i++)
  faults.push(
    (await talk(ctx, order.stationId, { actionId: newId(), installationId: order.installationId })).fault,
  );
process.send!({ faults }, () => process.exit(0));
