import type { CaptureReading, ObserveLater } from '@/contract/requests';
import type { CheckReadingView, CheckView } from '@/contract/checkViews';
import { comparedSum } from '@/core/check/comparison';
import { comparedOf, evaluateCheck } from '@/core/check/evaluate';
import type { CheckReading, Observation } from '@/core/check/reading';
import { procedureOf } from '@/core/procedure/procedures';
import { quantityOf } from '@/core/quantity/quantity';
import { convertible, valueToBase, type Unit } from '@/core/quantity/unit';
import type { Queued } from '../outbox/queued';

/**
 * A check as it stands with what still waits on this device: judged here by the same core, until the server has it and
 * judges it again. What was read through the logger never waits.
 *
 * @param waiting what the outbox holds, in the order of the acts
 * @returns the check itself where nothing of it waits
 */
export function judgedHere(check: CheckView, waiting: readonly Queued[]): CheckView {
  const its = waiting.filter((w) => w.state === 'waits' && w.params.checkId === check.id);
  const adjustments = check.adjustments.some((a) => a.undoes) ? [] : check.adjustments;
  let readings = check.readings.map(readingOf);
  for (const { kind, body, params } of its) {
    if (kind === 'checkReading') {
      const reading = typedReading(check, adjustments.length, body as CaptureReading);
      if (reading && canBe(check, reading) && !readings.some((r) => r.id === reading.id))
        readings = [...readings, reading];
    }
    if (kind === 'checkObservation')
      readings = readings.map((r) =>
        r.id === params.readingId ? withLater(check, r, body as ObserveLater) : r,
      );
  }
  if (readings.every((r, i) => r.observations.length === observationsOf(check.readings[i]))) return check;
  const evaluation = evaluateCheck({ plan: check.plan, readings, earlier: check.earlier }, adjustments);
  return { ...check, ...evaluation, readings: readings.map((r) => viewOf(check, r)) };
}

/** What cannot be compared the server refuses in words; here it is left out. */
function canBe({ plan }: CheckView, reading: CheckReading): boolean {
  try {
    comparedOf(reading, plan);
    return true;
  } catch {
    return false;
  }
}

const observationsOf = (r: CheckReadingView | undefined): number =>
  r ? 1 + r.references.length + r.companions.length : 0;

const seconds = (iso: string): number => Date.parse(iso) / 1000;

/** As it is judged. */
function readingOf(r: CheckReadingView): CheckReading {
  const at = seconds(r.occurredAt);
  const of = (id: string, role: string, value: number, isExcluded = false): Observation => ({
    id,
    role,
    value,
    at,
    since: null,
    isExcluded,
  });
  return {
    id: r.id,
    phase: r.phase,
    round: r.round,
    point: r.point,
    at,
    settling: r.settling,
    reference: r.reference,
    isCleaned: r.afterCleaning,
    isExcluded: r.excludedReason !== null,
    observations: [
      of(`${r.id} sensor`, 'sensor', r.sensorValue),
      ...r.references.map((x) => of(x.id, 'reference', x.value, x.excludedReason !== null)),
      ...r.companions.map((c) => of(`${r.id} ${c.key}`, c.key, c.value)),
    ],
  };
}

/** One that was typed whole; null for what only the server can complete. */
function typedReading(check: CheckView, round: number, body: CaptureReading): CheckReading | null {
  const { plan, correction } = check;
  const { typed, reference, companions = {} } = body;
  if (!typed) return null;
  const { unit } = quantityOf(plan.quantity);
  const read: readonly (readonly [role: string, value: number | null])[] = [
    ['sensor', inBase(typed.sensor.value, typed.sensor.unit, unit)],
    ...(reference ? [['reference', inBase(reference.value, reference.unit, unit)] as const] : []),
    ...Object.entries(companions).map(([key, c]) => {
      const spec = procedureOf(plan.procedure).companions[key];
      return [key, spec ? inBase(c.value, c.unit, spec.unit) : null] as const;
    }),
  ];
  // The server will refuse it, and say why.
  if (read.some(([, value]) => value === null)) return null;
  const at = seconds(body.occurredAt);
  return {
    id: body.readingId,
    phase: round > 0 ? 'verification' : 'as-found',
    round,
    point: body.point ?? (plan.points.length === 1 ? plan.points[0]!.key : null),
    at,
    settling: typed.stoodStill
      ? { state: 'said', window: plan.settleWindow }
      : { state: 'watching', watched: 0, window: plan.settleWindow },
    reference: reference && typed.stoodStill ? { state: 'said' } : null,
    isCleaned: round === 0 && (body.afterCleaning === true || check.readings.some((r) => r.afterCleaning)),
    isExcluded: false,
    observations: read.map(([role, value]) => ({
      id: `${body.readingId} ${role}`,
      role,
      value: value! + (role === 'sensor' ? correction : 0),
      at,
      since: null,
      isExcluded: false,
    })),
  };
}

/** With a test, or a mass, that came later. */
function withLater({ plan }: CheckView, r: CheckReading, body: ObserveLater): CheckReading {
  const { role, entered, observationId } = body;
  const base =
    role === 'reference'
      ? quantityOf(plan.quantity).unit
      : procedureOf(plan.procedure).companions[role]?.unit;
  const value = base ? inBase(entered.value, entered.unit, base) : null;
  if (value === null || r.observations.some((o) => o.id === observationId)) return r;
  const at = seconds(body.occurredAt);
  return {
    ...r,
    observations: [...r.observations, { id: observationId, role, value, at, since: null, isExcluded: false }],
  };
}

const inBase = (value: number, from: Unit, base: Unit): number | null =>
  convertible(from, base) ? valueToBase(value, from, base) : null;

/** As it is shown. */
function viewOf({ plan, readings }: CheckView, r: CheckReading): CheckReadingView {
  const kept = readings.find((x) => x.id === r.id);
  const of = (role: string) => r.observations.filter((o) => o.role === role);
  const sensorValue = of('sensor')[0]!.value;
  const compared = comparedOf(r, plan);
  return {
    id: r.id,
    phase: r.phase,
    round: r.round,
    point: r.point,
    occurredAt: new Date(r.at * 1000).toISOString(),
    sensorValue,
    references: of('reference').map((o) => ({
      id: o.id,
      value: o.value,
      at: new Date(o.at * 1000).toISOString(),
      excludedReason: kept?.references.find((x) => x.id === o.id)?.excludedReason ?? null,
    })),
    companions: Object.keys(procedureOf(plan.procedure).companions).flatMap((key) =>
      of(key).map(({ value }) => ({ key, value })),
    ),
    compared: compared && {
      ...compared,
      sum: comparedSum(plan.quantity, sensorValue, compared.reference, plan.decimals),
    },
    settling: r.settling,
    reference: r.reference,
    afterCleaning: r.isCleaned,
    excludedReason: kept?.excludedReason ?? null,
  };
}
