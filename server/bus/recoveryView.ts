import type { RecoveryView } from '@/contract/busViews';
import { serialToTry } from '@/core/bus/usualSerial';
import { recover } from '@/core/recovery/recovery';
import type { Database } from '@/db/database';
import { unknownActions } from '../device/deviceAction';
import { loadStation } from '../station/stationGraph';
import { sessionView } from './consoleView';
import { initialsOf } from './line';
import { mendOf } from './mend';
import { triedSince } from './recovery';
import { loadSearch, type Search } from './recoveryCase';
import { openSessionOn } from './session';

/** A search as a page: what was tried and what it means, what to do next, what has to be put back. */
export async function recoveryView(
  db: Database,
  stationId: string,
  recoveryId: string,
  now: Date,
): Promise<RecoveryView> {
  const graph = await loadStation(db, stationId);
  const search = await loadSearch(db, graph, recoveryId);
  const { installation, connection, what, steps } = search;
  const [initials, session, unknown] = await Promise.all([
    initialsOf(db),
    openSessionOn(db, stationId, installation.port.id),
    unknownActions(db, [stationId]),
  ]);
  const state = recover(
    what,
    steps.map((s) => s.evidence),
  );
  const mend = mendOf(search);
  const shown = sessionView(session, initials, now);
  return {
    stationId,
    code: graph.station.code,
    name: graph.station.name,
    cautions: graph.station.cautions,
    recoveryId,
    portId: installation.port.id,
    lineName: installation.port.name,
    device: {
      serial: installation.sensor.serial,
      modelName: installation.profile.name,
      zoneName: installation.row.zoneName,
      idSetBy: connection.idSetBy,
      channels: graph.channels
        .filter((c) => c.installation?.row.id === installation.row.id)
        .map((c) => c.name),
    },
    begunAt: search.row.begunAt.toISOString(),
    initials: initials.get(search.row.personId) ?? '?',
    endedAt: search.row.endedAt?.toISOString() ?? null,
    what,
    evidence: steps.map((s, i) => ({
      number: s.number,
      step: s.evidence.step,
      at: s.at.toISOString(),
      initials: initials.get(s.personId) ?? '?',
      says: state.meanings[i]!,
    })),
    state,
    toTry: serialToTry(what.delivered, [what.serial, ...triedSince(search)]),
    session: shown,
    mend: mend && { cause: mend.cause, by: mend.by, changes: mend.changes },
    reconnect: reconnectList(search, shown),
    unknownActions: unknown,
  };
}

/** What hands have taken apart or set meanwhile, and nobody has said to be back. */
function reconnectList({ steps, what }: Search, session: RecoveryView['session']): string[] {
  const evidence = steps.map((s) => s.evidence);
  const newest = (step: string) => evidence.findLast((e) => e.step === step);
  const swap = newest('swap');
  const alone = evidence.some(
    (e) => (e.step === 'alone' || e.step === 'any-id' || e.step === 'service') && e.result,
  );
  return [
    swap?.step === 'swap' &&
      swap.result &&
      swap.result.heard !== 'answer' &&
      'The two data leads, swapped for a try: back as they were.',
    newest('whose')?.result && 'Its own two data leads, taken off for a try: back on.',
    alone && 'The data leads of the others on the line: back on.',
    !what.setsSerial &&
      newest('speeds')?.result &&
      'The gateway: set back by hand to the speed and parity of the line.',
    session?.master === 'lifted' && 'The pair of the logger: back on.',
    session?.outputsInHand && 'Outputs that were put in hand: given back.',
    session && 'The line: given back to the logger.',
  ].filter((s): s is string => typeof s === 'string');
}
