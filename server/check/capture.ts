import type { CaptureReading, EnteredValue, ExcludeReading, TypedSensor } from '@/contract/requests';
import { comparedSum } from '@/core/check/comparison';
import { comparedOf } from '@/core/check/evaluate';
import type { CheckPlan, PlannedCompanion } from '@/core/check/plan';
import { gather, type CheckReading, type Observation } from '@/core/check/reading';
import { procedureOf } from '@/core/procedure/procedures';
import type { Companion, Compared } from '@/core/procedure/procedure';
import { formatAge, formatDifference, formatValue } from '@/core/quantity/format';
import { inSentence, quantityOf } from '@/core/quantity/quantity';
import { row } from '@/db/database';
import { atStation } from '../station/atStation';
import type { Context } from '../context';
import { personTime } from '../book/fieldBook';
import { newId } from '../id';
import { badField, inTheWay, notFound } from '../problem';
import { recordCorrection, sensorNow, type SensorNow } from './live';
import { loadCheck, loadOpenCheck, requireFree, type LoadedCheck } from './load';
import { averageOf, referenceRestOf, settlingOf } from './settled';
import { inBase, quantityInBase, requirePlausible } from './typedValue';
import { recordAct } from '../book/recordAct';

/** What is kept of a value beside the value itself: how it came about. */
interface Read {
  readonly value: number;
  readonly entered: Readonly<Record<string, unknown>>;
}

/**
 * Captures what belongs together: the sensor's value comes from the logger at that moment, or was read off its display;
 * reference and companions are typed, or come from the logger, too.
 */
export async function captureReading(
  ctx: Context,
  stationId: string,
  checkId: string,
  request: CaptureReading,
): Promise<{ readingId: string; difference: number | null }> {
  const known = await knownReading(ctx, stationId, checkId, request.readingId);
  if (known) return known;
  const check = await loadOpenCheck(ctx.db, stationId, checkId);
  const { plan } = check;
  const at = personTime(ctx, request.occurredAt);
  requireDone(check, at);
  const phase = check.adjustments.length ? ('verification' as const) : ('as-found' as const);
  const round = check.adjustments.length;
  const point = readPoint(plan, request);
  // What was cleaned stays clean.
  const isCleaned =
    phase === 'as-found' && (request.afterCleaning === true || check.readings.some((r) => r.isCleaned));
  if (request.reference) quantityInBase(plan.quantity, 'reference', request.reference);
  const live = request.typed ? readOff(plan, request.typed, at) : await askedNow(ctx, check, at);
  const correction = plan.adjustIn === 'record' ? await recordCorrection(ctx.db, check) : 0;
  const { window } = procedureOf(plan.procedure);
  const held = window !== null && !request.typed ? averageOf(plan, window, request.watched, live) : null;
  const sensor = held ? held.value : live.value + correction;
  const reference = readReference(plan, request, sensor);
  const companions = readCompanions(plan, request, live);
  const settling = held?.settling ?? settlingOf(plan, request, { t: live.t, value: sensor });
  const rest = reference
    ? referenceRestOf(plan, request, { opened: check.row.openedAt, at, t: live.t })
    : null;
  const read: readonly (readonly [role: string, Read])[] = [
    [
      'sensor',
      {
        value: sensor,
        entered: {
          correction,
          watched: request.typed ? 0 : request.watched.length,
          ...(request.typed && { typed: request.typed }),
        },
      },
    ],
    ...(reference ? [['reference', reference] as const] : []),
    ...companions,
  ];
  const observations = read.map(([role, { value }]): Observation => ({
    id: newId(),
    role,
    value,
    at: at.getTime() / 1000,
    since: role === 'sensor' && window !== null ? at.getTime() / 1000 - window : null,
    isExcluded: false,
  }));
  const taken: CheckReading = {
    id: request.readingId,
    phase,
    round,
    point,
    at: at.getTime() / 1000,
    settling,
    reference: rest,
    isCleaned,
    isExcluded: false,
    observations,
  };
  const compared = compare(taken, plan, request.reference);
  await atStation(ctx, stationId, async (tx) => {
    // The logger was asked in between: what was true of the check then has to be true still.
    if (await row(ctx.db.checkReading, { where: { stationId, id: request.readingId }, transaction: tx }))
      return;
    const still = await loadOpenCheck(ctx.db, stationId, checkId, tx);
    if (still.adjustments.length !== round)
      throw inTheWay(
        'adjusted-meanwhile',
        'An adjustment was made while this reading was taken.',
        'Take it again: it belongs to the verification now.',
      );
    const number =
      still.readings.filter((r) => r.phase === phase && r.round === round && !r.isExcluded).length + 1;
    const by = { recordedAt: ctx.now(), recordedBy: ctx.person.id };
    await ctx.db.checkReading.create(
      {
        stationId,
        id: taken.id,
        checkId,
        phase,
        round,
        occurredAt: at,
        ...by,
        point: taken.point,
        settling,
        referenceRest: rest,
        afterCleaning: isCleaned,
      },
      { transaction: tx },
    );
    await ctx.db.observation.bulkCreate(
      observations.map(({ id, role, value, since }, i) => ({
        stationId,
        id,
        readingId: taken.id,
        role,
        value,
        since: since === null ? null : new Date(since * 1000),
        occurredAt: at,
        ...by,
        entered: read[i]![1].entered,
      })),
      { transaction: tx },
    );
    const { unit } = quantityOf(plan.quantity);
    const d = plan.decimals;
    await recordAct(ctx, tx, {
      stationId,
      channelId: check.row.channelId,
      occurredAt: at,
      kind: 'check',
      text:
        `${phase === 'as-found' ? 'As found' : 'Verification'} ${number}${isCleaned ? ', cleaned,' : ''} of ${check.channel.name}: sensor ${formatValue(sensor, d)}${request.typed ? ' read off the display' : ''}, ` +
        `${referenceText(check, taken, reference)}${besideText(taken, plan, compared)}, ${settling.state === 'said' ? 'said to stand still' : settling.state}`,
      sum: compared && `${comparedSum(plan.quantity, sensor, compared.reference, d)} ${unit}`,
      action: 'check.capture',
      subject: { checkId, readingId: request.readingId },
    });
  });
  return { readingId: request.readingId, difference: compared?.difference ?? null };
}

/** While the device works on itself, what it reads verifies nothing. */
function requireDone({ adjustments }: LoadedCheck, at: Date): void {
  const until = adjustments.at(-1)?.runsUntil;
  if (!until || at >= until) return;
  throw inTheWay(
    'calibrates-itself',
    `The device calibrates itself for ${formatAge((until.getTime() - at.getTime()) / 1000)} more.`,
    'Wait, with the sensor left as it is; what it reads meanwhile is marked as off-line.',
  );
}

/** A reading that was sent before: answered as it was then. */
async function knownReading(ctx: Context, stationId: string, checkId: string, readingId: string) {
  if (!(await row(ctx.db.checkReading, { where: { stationId, id: readingId } }))) return null;
  const { readings, plan } = await loadCheck(ctx.db, stationId, checkId);
  const known = readings.find((r) => r.id === readingId);
  return { readingId, difference: (known && comparedOf(known, plan)?.difference) ?? null };
}

/** Compared by the procedure; what it cannot compare is refused in its words. */
function compare(taken: CheckReading, plan: CheckPlan, reference?: EnteredValue): Compared | null {
  try {
    return comparedOf(taken, plan);
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    throw badField(
      'not-comparable',
      'reference',
      reference?.value ?? null,
      `These readings cannot be compared: ${error.message}.`,
      'Look at the instruments: one of them is broken or switched off.',
    );
  }
}

/** What it is compared with, for the field book. */
function referenceText({ plan }: LoadedCheck, { point }: CheckReading, reference: Read | null): string {
  if (reference)
    return `reference ${formatValue(reference.value, plan.decimals)} ${quantityOf(plan.quantity).unit}`;
  return plan.points.find((p) => p.key === point)?.name ?? 'its reference is still to come';
}

/** What stood beside both, for the field book: " (16.00 °C, 16.10 °C; brought to the sensor’s °C)". */
function besideText(taken: CheckReading, plan: CheckPlan, compared: Compared | null): string {
  const gathered = gather(taken, plan);
  const specs = procedureOf(plan.procedure).companions;
  const beside = Object.entries(gathered?.companions ?? {}).map(([key, value]) => {
    const { name, decimals, unit } = specs[key]!;
    return `${name} ${formatValue(value, decimals)} ${unit}`;
  });
  const how = compared?.how && `${compared.how}: ${formatValue(compared.reference, plan.decimals)}`;
  const all = [beside.join(', '), how].filter(Boolean);
  return all.length > 0 ? ` (${all.join('; ')})` : '';
}

/** A logger is asked now: a reading that waited to be sent would be paired with another moment's value, s. */
const together = 120;

async function askedNow(ctx: Context, check: LoadedCheck, at: Date): Promise<Paired> {
  const late = (ctx.now().getTime() - at.getTime()) / 1000;
  if (late > together)
    throw badField(
      'too-late-to-ask',
      'occurredAt',
      at.toISOString(),
      `This reading was taken ${formatAge(late)} ago; the logger can only say what the sensor reads now.`,
      'Take it again, and type what the logger’s display says where the logger cannot be asked.',
    );
  const live = await sensorNow(ctx, check);
  if (live.value === null)
    throw inTheWay(
      'sensor-silent',
      'The logger has no value of this sensor just now.',
      'Talk to it under Connect: wiring, then parameters, then ID. Or type what its display says.',
    );
  return { t: live.t, value: live.value, companions: live.companions };
}

type Paired = SensorNow & { readonly value: number };

/** The sensor's side as a person read it off the logger's display; what stands beside it is typed as well. */
const readOff = ({ quantity }: CheckPlan, typed: TypedSensor, at: Date): Paired => ({
  t: at.getTime() / 1000,
  value: quantityInBase(quantity, 'typed.sensor', typed.sensor),
  companions: {},
});

/** The point it was read at, where the procedure has points. */
function readPoint({ points }: CheckPlan, request: CaptureReading): string | null {
  // Where there is only one, it need not be said.
  const point = request.point ?? (points.length === 1 ? points[0]!.key : null);
  if (points.length === 0 ? point === null : points.some((p) => p.key === point)) return point;
  throw badField(
    'point-missing',
    'point',
    point,
    point === null ? 'It is not said at which point this was read.' : `This check has no point ${point}.`,
    points.length === 0
      ? 'Leave it out: sensor and reference are read side by side.'
      : `Choose ${points.map((p) => p.name).join(', or ')}.`,
  );
}

function readReference(plan: CheckPlan, request: CaptureReading, sensor: number): Read | null {
  const { reference, confirmed } = request;
  const { against, isLate } = procedureOf(plan.procedure);
  if (against !== 'instrument') {
    if (!reference) return null;
    throw badField(
      'no-reference-here',
      'reference',
      reference.value,
      'In this check the reference follows from the point and what is read beside it.',
      'Leave it out.',
    );
  }
  if (!reference) {
    if (isLate) return null;
    throw badField(
      'reference-missing',
      'reference',
      null,
      'The reference was not read.',
      'Enter what it shows.',
    );
  }
  const value = quantityInBase(plan.quantity, 'reference', reference);
  requirePlausible(
    plan.quantity,
    'reference',
    reference,
    sensor,
    plan.referenceRange,
    2 * plan.guard,
    confirmed,
  );
  return { value, entered: { ...reference } };
}

/** What was read beside both: typed, else as the logger shows it. */
function readCompanions(
  plan: CheckPlan,
  request: CaptureReading,
  live: SensorNow,
): (readonly [string, Read])[] {
  const read = new Map<string, Read>();
  const specs = procedureOf(plan.procedure).companions;
  for (const planned of plan.companions) {
    const spec = specs[planned.key]!;
    const field = `companions.${planned.key}`;
    const typed = request.companions?.[planned.key];
    if (typed) {
      const value = inBase(spec, field, typed);
      const near = spec.near && read.get(spec.near.key);
      requirePossible(planned, spec, field, typed, { value, beside: near?.value ?? null }, request.confirmed);
      read.set(planned.key, { value, entered: { ...typed } });
      continue;
    }
    const shown = live.companions[planned.key];
    if (shown !== undefined && shown !== null) {
      read.set(planned.key, { value: shown, entered: {} });
      continue;
    }
    if (!spec.isNeeded || spec.isLate) continue;
    if (planned.channel && !request.typed)
      throw inTheWay(
        'sensor-silent',
        `The logger has no value of this sensor’s ${inSentence(spec.quantity!)} just now.`,
        'Talk to it under Connect, or type what its display says.',
      );
    throw badField('companion-missing', field, null, `“${spec.name}” is missing.`, spec.why);
  }
  return [...read];
}

/** A companion as far off as no display shows, or far from what it should be near to. */
function requirePossible(
  planned: PlannedCompanion,
  spec: Companion,
  field: string,
  typed: EnteredValue,
  { value, beside }: { readonly value: number; readonly beside: number | null },
  confirmed?: boolean,
): void {
  const { quantity, near } = spec;
  const [low, high] = planned.range;
  if (quantity)
    requirePlausible(quantity, field, typed, beside, [low, high], near?.within ?? Infinity, confirmed);
  else if (!(value >= low && value <= high))
    throw badField(
      'outside-range',
      field,
      String(typed.value),
      `“${spec.name}” of ${typed.value} ${typed.unit} cannot be: ${low} to ${high} ${spec.unit} can.`,
      'Read it again, and look at its unit.',
    );
}

/** Takes a captured reading out of the reckoning; it stays on file with its reason. */
export async function excludeReading(
  ctx: Context,
  stationId: string,
  checkId: string,
  readingId: string,
  request: ExcludeReading,
): Promise<{ excluded: string }> {
  await atStation(ctx, stationId, async (tx) => {
    const check = await loadOpenCheck(ctx.db, stationId, checkId, tx);
    const reading = check.readings.find((r) => r.id === readingId);
    if (!reading) throw notFound('reading', readingId);
    if (reading.isExcluded)
      throw inTheWay(
        'excluded-already',
        `This reading was excluded already: ${reading.row.excludedReason}.`,
        'Nothing needs to be done.',
      );
    await requireFree(ctx, tx, check, reading);
    await ctx.db.checkReading.update(
      { excludedAt: ctx.now(), excludedReason: request.reason },
      { where: { stationId, id: readingId, excludedAt: null }, transaction: tx },
    );
    const difference = comparedOf(reading, check.plan)?.difference ?? null;
    await recordAct(ctx, tx, {
      stationId,
      channelId: check.row.channelId,
      occurredAt: ctx.now(),
      kind: 'check',
      text: `Excluded a reading of ${check.channel.name} (${formatDifference(difference, check.plan.decimals)}): ${request.reason}`,
      action: 'check.exclude',
      subject: { checkId, readingId },
    });
  });
  return { excluded: readingId };
}
