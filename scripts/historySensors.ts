import { shippedProfile } from '@/catalogue/profiles';
import type { Context } from '@/server/context';
import { installTransmitter } from '@/server/device/install';
import { storeSettings } from '@/server/device/keeping';
import { ownView, stageOwn, writeOwn } from '@/server/device/ownSettings';
import { proposedSettings, stageSettings, writeSettings } from '@/server/device/settings';
import { talk } from '@/server/device/talk';
import { newId } from '@/server/id';
import { installPlanned } from '@/server/plan/installPlanned';
import { loadStation } from '@/server/station/stationGraph';
import { busSerial } from '@/simulator/scenario';
import type { ScenarioStation } from '@/simulator/scenarioStation';
import { planStation } from './historyPlans';

/** Hangs what a station of the scenario has, as a technician would: planned, installed, its settings written, talked to. */
export async function hangSensors(
  ctx: Context,
  stationId: string,
  portId: string | null,
  st: ScenarioStation,
): Promise<void> {
  const occurredAt = ctx.now().toISOString();
  const planned = await planStation(ctx, stationId, st);
  for (const s of st.sensors.filter((x) => !x.unregistered)) {
    const installationId = planned.get(s.serial) ?? newId();
    const { leads } = shippedProfile(s.model)!;
    const { channelIds } = planned.has(s.serial)
      ? await installPlanned(ctx, stationId, {
          deviceId: installationId,
          revision: 1,
          serial: s.serial,
          landed: Object.entries(s.wired!)
            .filter(([colour]) => leads.some((l) => l.colour === colour && l.signal !== 'spare'))
            .map(([colour, terminal]) => ({ colour, terminal })),
          mounted: [],
          deviation: '',
          occurredAt,
        })
      : await installTransmitter(ctx, stationId, {
          installationId,
          portId: portId!,
          profileCode: s.model,
          serial: s.serial,
          busId: s.busId,
          zoneName: s.zone,
          serialSettings: busSerial,
          cableLength: s.cable,
          cableResistance: 84.2,
          landedLeads: leads.map((l) => l.colour),
          occurredAt,
        });
    for (const channelId of channelIds) {
      const graph = await loadStation(ctx.db, stationId);
      const channel = graph.channels.find((c) => c.row.id === channelId)!;
      const revisionId = newId();
      await stageSettings(ctx, stationId, channelId, {
        revisionId,
        basedOn: 0,
        settings: proposedSettings(channel, st.storageInterval),
      });
      await writeSettings(ctx, stationId, channelId, { actionId: newId(), revisionId });
    }
    await talk(ctx, stationId, { actionId: newId(), installationId });
  }
  await tellOwn(ctx, stationId);
}

/** Its station ID and name, and what it listens to; stored for good where it has to be told. */
async function tellOwn(ctx: Context, stationId: string): Promise<void> {
  const own = await ownView(ctx.db, await loadStation(ctx.db, stationId));
  if (own?.proposed) {
    const revisionId = newId();
    await stageOwn(ctx, stationId, { revisionId, basedOn: 0, settings: own.proposed });
    await writeOwn(ctx, stationId, { actionId: newId(), revisionId });
  }
  if (own?.keepsWhenTold) await storeSettings(ctx, stationId, { actionId: newId() });
}
