import type { DiscoverChain } from '@/contract/busRequests';
import type { ChainView } from '@/contract/busViews';
import { query, type Database } from '@/db/database';
import { chainOutcome, type ChainOutcome } from '@/db/stored/line';
import { LoggerFault } from '@/devices/logger';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { runDeviceAction } from '../device/deviceAction';
import { loggerLine } from '../device/line';
import { loggerLink } from '../device/loggerLink';
import { badField } from '../problem';
import { loadStation, loggerOf, type StationGraph } from '../station/stationGraph';

/** Daisy chains of a logger: who hangs there, in their order, looked at anew after each plug. */

const chainsOf = (graph: StationGraph) =>
  (graph.loggerProfile?.ports ?? []).flatMap((p) =>
    p.bus?.kind === 'daisy-chain' ? [{ port: p.name, bus: p.bus }] : [],
  );

/** Has the logger look who hangs on a chain, and says who is new, missing, built in, or counts as more than one. */
export async function discoverChain(
  ctx: Context,
  stationId: string,
  { actionId, port }: DiscoverChain,
): Promise<ChainView> {
  const graph = await loadStation(ctx.db, stationId);
  const chain = chainsOf(graph).find((c) => c.port === port);
  if (!chain)
    throw badField(
      'no-chain',
      'port',
      port,
      `"${port}" is no daisy chain of this logger.`,
      'Choose one that is.',
    );
  await runDeviceAction(
    ctx,
    {
      id: actionId,
      stationId,
      line: loggerLine(loggerOf(graph).address),
      kind: 'bus-read',
      intent: { chain: port },
    },
    async (lease) => {
      await lease.renew();
      const found = await loggerLink(ctx, graph)
        .then((l) => l.chain(port))
        .catch((error: unknown) => {
          if (error instanceof LoggerFault) return error;
          throw error;
        });
      const outcome: ChainOutcome =
        found instanceof LoggerFault
          ? { says: found.message, units: [] }
          : {
              says: found.length === 1 ? '1 unit' : `${found.length} units`,
              units: found.map(({ unit, model, counts, builtIn }) => ({ unit, model, counts, builtIn })),
            };
      return {
        state: found instanceof LoggerFault ? 'failed' : 'done',
        outcome: chainOutcome.write(outcome) as Record<string, unknown>,
      };
    },
    async (tx, done) => {
      const { units } = chainOutcome.read(done.outcome);
      await recordAct(ctx, tx, {
        stationId,
        occurredAt: ctx.now(),
        kind: 'talk',
        text: `Looked who hangs on ${port}: ${units.map((u) => (u.builtIn ? 'one built in' : u.unit)).join(', ') || 'nobody'}`.slice(
          0,
          800,
        ),
        action: 'line.chain',
        subject: { actionId: done.id, port },
      });
    },
  );
  return (await chainViews(ctx.db, graph)).find((c) => c.port === port)!.last;
}

/** Each chain as it was found last, beside what was found before and what is on file. */
export async function chainViews(
  db: Database,
  graph: StationGraph,
): Promise<{ port: string; system: string; last: ChainView }[]> {
  return Promise.all(
    chainsOf(graph).map(async ({ port, bus }) => {
      const looks = await query<{ at: Date; outcome: unknown }>(
        db,
        `select intended_at as at, outcome from device_action
          where station_id = :stationId and kind = 'bus-read' and intent->>'chain' = :port and settled_at is not null
            and jsonb_exists(outcome, 'units')
          order by intended_at desc, id desc limit 2`,
        { stationId: graph.station.id, port },
      );
      const [newest, before] = looks.map((l) => ({ at: l.at, ...chainOutcome.read(l.outcome) }));
      const there = graph.installations.filter(
        (i) => i.port.name === port && i.profile.connection.kind === 'daisy-chain',
      );
      const zones = new Map(there.map((i) => [i.sensor.serial, i.row.zoneName]));
      const known = new Set(before?.units.map((u) => u.unit));
      const units = (newest?.units ?? []).map((u) => ({
        ...u,
        zoneName: zones.get(u.unit) ?? null,
        isNew: before !== undefined && !u.builtIn && !known.has(u.unit),
      }));
      return {
        port,
        system: bus.system,
        last: {
          at: newest?.at.toISOString() ?? null,
          says: newest?.says ?? '',
          units,
          missing:
            newest === undefined
              ? []
              : there
                  .filter((i) => !units.some((u) => u.unit === i.sensor.serial))
                  .map((i) => ({ serial: i.sensor.serial, zoneName: i.row.zoneName })),
          counted: units.reduce((n, u) => n + u.counts, 0),
          most: bus.perStrand,
        },
      };
    }),
  );
}
