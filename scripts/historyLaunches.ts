import type { Context } from '@/server/context';
import { launchLogger, stopLogger } from '@/server/deploy/launch';
import { stampDeployment } from '@/server/deploy/stamp';
import { newId } from '@/server/id';
import { collect } from '@/server/record/collect';
import { obey } from '@/simulator/lab';
import type { SimState } from '@/simulator/state';

const hour = 3_600_000;
const day = 24 * hour;

/**
 * A logger that stands alone: launched at the desk, carried out and hung, taken down weeks later, driven home and
 * read out; launched anew to begin at a time, hung before that, and left since. Nobody looked yet at what of the first
 * launch is no data.
 */
export async function playLaunches(
  { state, now, at }: { readonly state: SimState; readonly now: number; at(ms: number): Context },
  stationId: string,
  station: string,
): Promise<void> {
  const begin = Math.floor((now - 47 * day) / day) * day + 9 * hour;
  const home = Math.floor((now - 23 * day) / day) * day + 9 * hour;
  const carry = (ms: number, place: string | null) => {
    at(ms);
    obey(state, { logger: { station, carry: { place } } });
  };
  const launch = async (ms: number, after: string | null, startAt: number | null) => {
    const deploymentId = newId();
    await launchLogger(at(ms), stationId, {
      actionId: newId(),
      deploymentId,
      after,
      description: 'Far hag, face and foot',
      start: startAt === null ? 'whole-interval' : 'at',
      startAt: startAt === null ? null : new Date(startAt).toISOString(),
      whenFull: 'stops',
      storesBattery: false,
      discard: false,
    });
    return deploymentId;
  };
  const said = (ms: number, deploymentId: string, what: 'hung' | 'taken-down') =>
    stampDeployment(at(ms), stationId, deploymentId, {
      stampId: newId(),
      what,
      occurredAt: new Date(ms).toISOString(),
    });
  carry(begin - hour, 'Bench');
  const first = await launch(begin, null, null);
  carry(begin + 5 * hour, null);
  await said(begin + 5 * hour, first, 'hung');
  carry(home, 'Van');
  await said(home, first, 'taken-down');
  carry(home + 2 * hour, 'Bench');
  await stopLogger(at(home + 2 * hour), stationId, { actionId: newId() });
  await (
    await collect(at(home + 2.1 * hour), stationId, newId())
  ).done;
  const second = await launch(home + 2.2 * hour, first, home + 6 * hour);
  carry(home + 5 * hour, null);
  await said(home + 5 * hour, second, 'hung');
}
