import type { WorkRecovery } from '@/contract/busRequests';
import { serialText } from '@/core/bus/serial';
import type { AsFound } from '@/core/bus/serviceLine';
import { serialToTry } from '@/core/bus/usualSerial';
import type { Evidence } from '@/core/recovery/recovery';
import { openLine } from '@/devices/gatewayLine';
import type { ScanHit } from '@/line/scanIds';
import { askService, inServiceProtocol } from '@/devices/serviceSession';
import type { Context } from '../context';
import { withLease } from '../device/lease';
import { inTheWay } from '../problem';
import { startOperation, type Progress } from '../process/operation';
import { atStation } from '../station/atStation';
import { onLine, type BusLine } from './line';
import { refuseRange, refuseTranslated, scanIds } from './console';
import { hearAt, keepStep, openSearch, triedSince } from './recovery';
import { requireHeld } from './session';
import type { Search } from './recoveryCase';

/** Steps of a search that take a while: with progress, and stopped when asked; what they came to is one step. */
export async function workRecovery(
  ctx: Context,
  stationId: string,
  recoveryId: string,
  { operationId, number, step, from = 1, to = 247 }: WorkRecovery,
) {
  const { graph, search, line } = await openSearch(ctx, stationId, recoveryId, number);
  await requireHeld(ctx, stationId, line);
  refuseTranslated(line);
  refuseRange(from, to);
  if (step !== 'scan' && !line.setsSerial)
    throw inTheWay(
      'set-by-hand',
      'This gateway cannot be set from here.',
      'Set it by hand, one combination after the other.',
    );
  const work: Record<WorkRecovery['step'], (progress: Progress) => Promise<Evidence>> = {
    speeds: async (progress) => ({
      step: 'speeds',
      result: await trySpeeds(ctx, search, line, operationId, progress),
    }),
    scan: async (progress) => {
      const known = new Set(onLine(graph, line.portId).map((i) => i.row.busId));
      const hits: ScanHit[] = [];
      const ids = Array.from({ length: to - from + 1 }, (_, i) => from + i);
      await scanIds(ctx, line, operationId, ids, 100, hits, (id) =>
        progress.report((id - from) / ids.length, `ID ${id} of ${to}; ${hits.length} heard`),
      );
      return {
        step: 'scan',
        result: { from, to, found: hits.map((h) => h.id).filter((id) => !known.has(id)) },
      };
    },
    service: async (progress) => ({
      step: 'service',
      result: { found: await catchWindow(ctx, search, line, operationId, progress) },
    }),
  };
  return startOperation(ctx, { id: operationId, stationId, kind: 'recover' }, async (progress) => {
    const evidence = await work[step](progress);
    await atStation(ctx, stationId, (tx) => keepStep(ctx, tx, graph, search, number, evidence));
    return { message: 'Done', result: null };
  });
}

async function trySpeeds(ctx: Context, search: Search, line: BusLine, holder: string, progress: Progress) {
  const { what } = search;
  const before = triedSince(search);
  const all = serialToTry(what.delivered, [what.serial, ...before]);
  return withLease(ctx.db, line.line, holder, async (lease) => {
    const tried = [...before];
    const timeOut = 300 + 4 * (await toTheGateway(line));
    try {
      for (const [n, serial] of all.entries()) {
        await progress.report(n / all.length, `${serialText(serial)}, ${n + 1} of ${all.length}`);
        tried.push(serial);
        const heard = await hearAt(line, lease, what.busId, { serial, timeOut, quarantine: 100 });
        if (heard === 'answer') return { tried, at: serial };
      }
      return { tried, at: null };
    } finally {
      // Whoever asks next sets the gateway anyway; until then it stands as the line does.
      await hearAt(line, lease, what.busId, { timeOut: 60, quarantine: 10 }).catch(() => {});
    }
  });
}

/** How long the way to the gateway and back takes, ms: an answer over a mobile network is later than one over a cable. */
async function toTheGateway(line: BusLine): Promise<number> {
  const begun = Date.now();
  (await openLine(line.at, 2000, line.serial)).close();
  return Date.now() - begun;
}

/** How long somebody has to take power from a device and give it back, s. */
const patience = 120;

async function catchWindow(
  ctx: Context,
  { connection, what }: Search,
  line: BusLine,
  holder: string,
  progress: Progress,
): Promise<AsFound | null> {
  const service = connection.management?.service;
  if (!service) return null;
  return withLease(ctx.db, line.line, holder, (lease) =>
    inServiceProtocol(line.at, service.serial, what.serial, async (talking) => {
      const until = Date.now() + patience * 1000;
      let said =
        'Asked once before, and silent, as was expected. Take power from this device only, count to three, give it back';
      for (;;) {
        await lease.renew();
        lease.assertHeld();
        const found = await askService(talking, 450);
        if (found) return found;
        const left = Math.ceil((until - Date.now()) / 1000);
        if (left <= 0) return null;
        await progress.report(1 - left / patience, `${said}: ${left} s left`);
        said = 'Listening. Take power from this device only, count to three, give it back';
      }
    }),
  );
}
