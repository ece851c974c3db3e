import { newId } from '@/server/id';
import { installPlanned } from '@/server/plan/installPlanned';
import { savePlan } from '@/server/plan/plan';
import { present } from './bench';
import { onStation, type OnStation } from './onStation';
import { device, planOf } from './plan';

/** The edge mast: a wind head on the SDI-12 line of a logger, planned and installed. */
export const onEdgeMast = (take: (made: OnStation) => void): void =>
  onStation('MOSS-3', take, async ({ stationId, at }) => {
    const wired = { ochre: '7 S+', black: '8 S−', mint: '9 SD', bare: '10 SH' };
    const id = newId();
    const planned = device('fulmar-s1', wired, { id, name: 'Edge' });
    await savePlan(at(), stationId, {
      basedOn: 0,
      plan: planOf('brannoch-b4', [{ ...planned, busAddress: '0' }]),
    });
    await installPlanned(at(), stationId, {
      deviceId: id,
      revision: 1,
      serial: 'S1-0042',
      landed: Object.entries(wired).map(([colour, terminal]) => ({ colour, terminal })),
      mounted: [],
      deviation: '',
      occurredAt: new Date(present).toISOString(),
    });
  });
