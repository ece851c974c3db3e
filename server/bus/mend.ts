import type { MendRecovery } from '@/contract/busRequests';
import type { BusWriteView } from '@/contract/busViews';
import { serialText, serialWord } from '@/core/bus/serial';
import { serviceChanges } from '@/core/bus/serviceLine';
import type { Cause } from '@/core/recovery/cause';
import { recover } from '@/core/recovery/recovery';
import type { BusWriteIntent } from '@/db/stored/line';
import type { Context } from '../context';
import { inTheWay } from '../problem';
import { keepStep, openSearch } from './recovery';
import { requireHeld } from './session';
import { loadSearch, type Search } from './recoveryCase';
import { perform, plain } from './write';

/** Puts right over the line what was found, and asks again; what it will change is in the view beforehand. */
export async function mendRecovery(
  ctx: Context,
  stationId: string,
  recoveryId: string,
  { actionId, number }: MendRecovery,
): Promise<BusWriteView> {
  const { graph, search, line } = await openSearch(ctx, stationId, recoveryId, number);
  const session = await requireHeld(ctx, stationId, line);
  const mend = mendOf(search);
  if (!mend)
    throw inTheWay(
      'nothing-to-mend',
      'There is nothing here that can be put right over the line.',
      'Put it right at the device.',
    );
  return perform(
    ctx,
    graph,
    line,
    actionId,
    {
      ...plain(session, line),
      ...mend.intent,
      says: `${search.installation.sensor.serial}: ${mend.says}`,
    },
    async (tx) => {
      // It was read back as the line asks it: it answers.
      const now = await loadSearch(ctx.db, graph, recoveryId, tx);
      if (now.row.endedAt) return;
      await keepStep(ctx, tx, graph, search, now.steps.length + 1, {
        step: 'mended',
        result: { cause: mend.cause, heard: 'answer' },
      });
    },
  );
}

export interface Mend {
  readonly cause: Cause;
  readonly by: 'register' | 'service';
  readonly changes: readonly { readonly field: string; readonly from: string; readonly to: string }[];
  readonly says: string;
  readonly intent: Pick<BusWriteIntent, 'service' | 'mustBeFree' | 'writes' | 'check'>;
}

/** What can be put right over the line, given what was found; null where hands have to. */
export function mendOf(search: Search): Mend | null {
  const { management } = search.connection;
  const { what } = search;
  const evidence = search.steps.map((s) => s.evidence);
  const { found } = recover(what, evidence);
  if (!management || !found) return null;
  const { idRegister, serialRegister, storeRegister, service } = management;
  const store = (unit: number) =>
    storeRegister === null ? [] : [{ unit, serial: null, address: storeRegister, values: [1] }];
  const newest = evidence.at(-1);
  if (newest?.step === 'service' && newest.result?.found && service) {
    const changes = serviceChanges(newest.result.found, {
      busId: what.busId,
      serial: what.serial,
      protocol: 'modbus',
    });
    return {
      cause: found,
      by: 'service',
      changes,
      says: changes.map((c) => `${c.field} ${c.from} → ${c.to}`).join(', '),
      intent: {
        service: { serial: service.serial, back: what.serial, found: newest.result.found, changes },
        mustBeFree: null,
        writes: [],
        check: { unit: what.busId, serial: null, address: idRegister, values: [what.busId] },
      },
    };
  }
  if (
    found === 'serial' &&
    newest?.step === 'speeds' &&
    newest.result?.at &&
    what.setsSerial &&
    serialRegister !== null
  ) {
    const { at } = newest.result;
    const word = serialWord(what.serial);
    return {
      cause: found,
      by: 'register',
      changes: [{ field: 'serial parameters', from: serialText(at), to: serialText(what.serial) }],
      says: `${serialText(at)} → ${serialText(what.serial)}`,
      intent: {
        service: null,
        mustBeFree: null,
        writes: [
          { unit: what.busId, serial: at, address: serialRegister, values: [word] },
          ...store(what.busId),
        ],
        check: { unit: what.busId, serial: null, address: serialRegister, values: [word] },
      },
    };
  }
  const id =
    newest?.step === 'whose'
      ? newest.result?.silent[0]
      : newest?.step === 'any-id'
        ? newest.result?.id
        : null;
  if (found === 'id' && id)
    return {
      cause: found,
      by: 'register',
      changes: [{ field: 'ID', from: String(id), to: String(what.busId) }],
      says: `ID ${id} → ${what.busId}`,
      intent: {
        service: null,
        mustBeFree: what.busId,
        writes: [{ unit: id, serial: null, address: idRegister, values: [what.busId] }, ...store(what.busId)],
        check: { unit: what.busId, serial: null, address: idRegister, values: [what.busId] },
      },
    };
  return null;
}
