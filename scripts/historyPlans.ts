import { shipped, shippedProfile } from '@/catalogue/profiles';
import { plannedDevice } from '@/core/plan/newPlan';
import type { LeadPlace } from '@/core/plan/plan';
import type { Context } from '@/server/context';
import { newId } from '@/server/id';
import { planView, savePlan } from '@/server/plan/plan';
import type { ScenarioStation } from '@/simulator/scenarioStation';

/** Plans what is not on RS-485 at a station; ids of the planned sensors by their serial numbers. */
export async function planStation(
  ctx: Context,
  stationId: string,
  st: ScenarioStation,
): Promise<ReadonlyMap<string, string>> {
  const wired = st.sensors.filter((s) => s.wired && !s.unregistered);
  const ids = new Map(wired.map((s) => [s.serial, newId()]));
  if (wired.length === 0) return ids;
  const { plan } = await planView(ctx.db, stationId);
  await savePlan(ctx, stationId, {
    basedOn: 0,
    plan: {
      ...plan!,
      storeEvery: st.storageInterval,
      ...(st.visitEvery !== undefined && { visitEvery: st.visitEvery }),
      devices: wired.map((s) => ({
        ...plannedDevice(ids.get(s.serial)!, shippedProfile(s.model)!, s.zone),
        serial: s.serial,
        busAddress: s.address ?? null,
        cable: { metres: s.cable, ohmsPerKm: 84.2, run: null },
        landings: Object.fromEntries(
          Object.entries(s.wired!).map(([colour, terminal]): [string, LeadPlace] => [
            colour,
            s.through
              ? { at: 'host', device: ids.get(s.through.serial)!, screw: s.through.screws[colour]! }
              : { at: 'terminal', terminal },
          ]),
        ),
      })),
    },
  });
  return ids;
}

/** What somebody planned for next week, with three faults in it: logic of 5 V on a 3.3 V pin, one I²C address twice, a switch at mains potential. */
export async function planFaults(ctx: Context, stationId: string): Promise<void> {
  const { plan, revision } = await planView(ctx.db, stationId);
  const on = (places: Readonly<Record<string, string>>) =>
    Object.fromEntries(
      Object.entries(places).map(([colour, terminal]): [string, LeadPlace] => [
        colour,
        { at: 'terminal', terminal },
      ]),
    );
  const planned = (
    profile: Parameters<typeof plannedDevice>[1],
    name: string,
    places: Record<string, string>,
  ) => ({
    ...plannedDevice(newId(), profile, name),
    cable: { metres: 0.3, ohmsPerKm: 84.2, run: null },
    landings: on(places),
  });
  await savePlan(ctx, stationId, {
    basedOn: revision,
    plan: {
      ...plan!,
      devices: [
        ...plan!.devices,
        planned(shippedProfile('geo-h2')!, 'Trough air', {
          red: '5V',
          black: 'GND1',
          yellow: 'D3',
          blue: 'D4',
        }),
        planned(shippedProfile('geo-l1')!, 'Second light', {
          red: '3V3',
          black: 'GND1',
          yellow: 'D1',
          blue: 'D2',
        }),
        planned(shipped('board', 'tyst-m1')!, 'Lamp switch', { red: '3V3', black: 'GND2', white: 'D7' }),
      ],
    },
  });
}
