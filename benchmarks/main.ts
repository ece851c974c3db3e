import { benchCheck } from './check';
import { benchCircuit } from './circuit';
import { benchDischarge, benchStoredDischarge } from './discharge';
import { benchFaults } from './faults';
import { benchImport } from './import';
import { benchOutbox } from './outbox';
import { benchPlan } from './plan';
import { benchQuality } from './quality';
import { benchRound } from './round';
import { benchScan } from './scan';
import { benchTrace } from './trace';
import { benchVerify, manyStations } from './verify';
import { benchVisit } from './visit';
import { benchArrivals, benchRehearsal } from './watch';
import { benchWorld } from './world';

const wanted = process.argv.slice(2);
const wants = (part: string) => wanted.length === 0 || wanted.includes(part);

if (wants('quality')) await benchQuality();
if (wants('plan')) await benchPlan();
if (wants('circuit')) benchCircuit();
if (wants('check')) await benchCheck();
if (wants('discharge')) await benchDischarge();
// Takes a quarter of an hour: only where it is asked for.
if (wanted.includes('faults')) benchFaults();
if (wants('scan')) await benchScan();
if (['watch', 'discharge', 'outbox', 'visit', 'import', 'trace', 'verify', 'round'].some(wants)) {
  const world = await benchWorld();
  try {
    if (wants('watch')) await benchRehearsal(world);
    if (wants('watch')) await benchArrivals(world);
    if (wants('discharge')) await benchStoredDischarge(world);
    if (wants('outbox')) await benchOutbox(world);
    if (wants('visit')) await benchVisit(world);
    if (wants('import')) await benchImport(world);
    if (wants('trace')) await benchTrace(world);
    if (wants('verify') || wants('round')) await manyStations(world);
    if (wants('verify')) await benchVerify(world);
    if (wants('round')) await benchRound(world);
  } finally {
    await world.db.sequelize.close();
  }
}
