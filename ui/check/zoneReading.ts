import type { CaptureReading, EnteredValue } from '@/contract/requests';
import type { CheckStartView, CheckView } from '@/contract/checkViews';
import { referenceRests, type ReferenceRest } from '@/core/check/referenceRest';
import { atRest, type Settling } from '@/core/check/settling';
import type { ProcedureCode } from '@/core/procedure/codes';
import { procedureOf, proceduresFor } from '@/core/procedure/procedures';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import { numberOf } from '../shared/numberOf';
import { besideOf, offLinkOf, type Beside } from './companions';
import type { Watch } from './useLiveReadings';
import { judgedOf } from './verdictWords';

/** One open check of a zone, as it stands when a reading is taken of all of them. */
export interface ZoneRow {
  readonly check: CheckView;
  readonly watch: Watch;
  readonly settling: Settling;
  /** Whether its reference stands still; null where nothing says so. */
  readonly reference: ReferenceRest | null;
  /** What was typed off the reference; empty where its linked display is taken. */
  readonly typed: string;
  readonly unit: Unit;
}

/** The procedure by which a quantity is gone through zone by zone; null for one that is checked by itself. */
export function zoneProcedure(quantity: QuantityCode): ProcedureCode | null {
  const code = proceduresFor(quantity).find((c) => procedureOf(c).against === 'instrument');
  if (code === undefined) return null;
  const { isLate, isTyped, companions } = procedureOf(code);
  const needsPlace = Object.values(companions).some((c) => c.of === 'place' && c.isNeeded);
  return isLate || isTyped || needsPlace ? null : code;
}

/** What can be gone through of a station: its zones in the order of their channels. */
export function zonesOf({ channels, instruments }: Pick<CheckStartView, 'channels' | 'instruments'>) {
  const zones = new Map<string, CheckStartView['channels']>();
  for (const c of channels) {
    const measured = instruments.some((i) => i.quantities.some((q) => q.quantity === c.quantity));
    if (!measured || zoneProcedure(c.quantity) === null) continue;
    zones.set(c.zoneName, [...(zones.get(c.zoneName) ?? []), c]);
  }
  return zones;
}

/** What the reference of a row shows: typed, else off its linked display; null where it says nothing. */
export function referenceOf({ check, watch, typed, unit }: ZoneRow): EnteredValue | null {
  if (typed.trim() !== '') return { value: numberOf(typed), unit };
  const shown = watch.live?.instrument?.value ?? null;
  return shown === null ? null : { value: shown, unit: check.unit };
}

/**
 * What is read off the reference beside its value: what another row reads off the same instrument is lent, so that no
 * number is typed twice; else its linked display.
 *
 * @returns what is there by key, and what is needed and missing
 */
export function besideReference(
  row: ZoneRow,
  rows: readonly ZoneRow[],
): { readonly there: Readonly<Record<string, EnteredValue>>; readonly missing: readonly Beside[] } {
  const beside = besideOf(row.check.plan).filter(({ spec }) => spec.of === 'reference');
  const linked = offLinkOf(beside, row.watch.live, false);
  const there: Record<string, EnteredValue> = {};
  const missing: Beside[] = [];
  for (const b of beside) {
    const lender = rows.find(
      (r) =>
        r !== row &&
        r.check.plan.quantity === b.spec.quantity &&
        r.check.instrument?.id === row.check.instrument?.id,
    );
    const value = (lender && referenceOf(lender)) ?? linked[b.key];
    if (value) there[b.key] = value;
    else if (b.spec.isNeeded) missing.push(b);
  }
  return { there, missing };
}

/** The reading of a row as it is sent; null where something of it is still missing. */
export function zoneReading(
  row: ZoneRow,
  rows: readonly ZoneRow[],
  act: Pick<CaptureReading, 'readingId' | 'occurredAt'>,
): CaptureReading | null {
  const reference = referenceOf(row);
  const { there, missing } = besideReference(row, rows);
  if (!reference || missing.length > 0) return null;
  return {
    ...act,
    reference,
    companions: there,
    watched: row.watch.watched.slice(-900),
    ...(row.typed.trim() === '' && { referenceWatched: row.watch.reference.slice(-900) }),
  };
}

/** Readings of a check that count, as found. */
export const takenOf = (check: CheckView): number => judgedOf(check).length;

/** Those of them that caught the sensor, or its reference, moving. */
export const movedOf = ({ readings }: Pick<CheckView, 'readings'>) =>
  judgedOf({ readings }).filter((r) => !(atRest(r.settling) && referenceRests(r.reference)));
