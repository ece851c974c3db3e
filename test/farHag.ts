import { shippedProfile } from '@/catalogue/profiles';
import type { Context } from '@/server/context';
import { proposedSettings, stageSettings, writeSettings } from '@/server/device/settings';
import { newId } from '@/server/id';
import { installPlanned } from '@/server/plan/installPlanned';
import { savePlan } from '@/server/plan/plan';
import { loadStation } from '@/server/station/stationGraph';
import { present } from './bench';
import { onStation, type OnStation } from './onStation';
import { device, planOf } from './plan';

/** A logger that is launched: two thermistors planned, installed, their settings written; never launched. */
export interface FarHag extends OnStation {
  /** Acts at an instant, ms; the stand's clock stands there too. */
  when(ms: number, who?: 'technician' | 'reviewer'): Context;
}

const wired = [
  { serial: 'T1-0911', name: 'Hag face', ivory: 'T1' },
  { serial: 'T1-0912', name: 'Hag foot', ivory: 'T2' },
] as const;

export const onFarHag = (take: (made: FarHag) => void, storageInterval = 600): void =>
  onStation(
    'HUT-3',
    (made) => take({ ...made, when: whenOf(made) }),
    async (made) => {
      const { stationId, at } = made;
      const planned = wired.map((w) => ({
        ...device('noust-t1', { copper: 'EX', ivory: w.ivory }, { id: newId(), name: w.name }),
        cable: { metres: 2, ohmsPerKm: 84.2, run: null },
      }));
      await savePlan(at(), stationId, {
        basedOn: 0,
        plan: planOf('noust-n3', planned, {
          supply: { volts: 3.6, most: 0.1, batteryAh: null, solarWh: null, daysWanted: 5 },
          storeEvery: storageInterval,
          visitEvery: 21,
          ports: [{ name: 'Terminals', line: null, terminators: 0 }],
        }),
      });
      for (const [i, w] of wired.entries()) {
        const { channelIds } = await installPlanned(at(), stationId, {
          deviceId: planned[i]!.id,
          revision: 1,
          serial: w.serial,
          landed: [
            { colour: 'copper', terminal: 'EX' },
            { colour: 'ivory', terminal: w.ivory },
          ],
          mounted: [...shippedProfile('noust-t1')!.mounting],
          deviation: '',
          occurredAt: new Date(present).toISOString(),
        });
        for (const channelId of channelIds) {
          const channel = (await loadStation(made.test_.db, stationId)).channels.find(
            (c) => c.row.id === channelId,
          )!;
          const revisionId = newId();
          await stageSettings(at(), stationId, channelId, {
            revisionId,
            basedOn: 0,
            settings: proposedSettings(channel, storageInterval),
          });
          await writeSettings(at(), stationId, channelId, { actionId: newId(), revisionId });
        }
      }
    },
  );

const whenOf =
  (made: OnStation): FarHag['when'] =>
  (ms, who = 'technician') => {
    made.stand.state.clock = { mode: 'frozen', at: ms };
    return { ...made.at((ms - present) / 60_000), person: made.bench.people[who] };
  };
