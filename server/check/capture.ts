import type { CaptureReading, EnteredValue, ExcludeReading, TypedSensor } from '@/contract/requests';
import { comparedSum, differenceOf, onALine } from '@/core/check/comparison';
import { compareHumidity } from '@/core/check/humidityComparison';
import { settlingRule, thermometersOf } from '@/core/check/plan';
import { judgePlausible, type Plausibility } from '@/core/check/plausible';
import { judgeSettling, type Settling } from '@/core/check/settling';
import type { TimedValue } from '@/core/check/timedValue';
import { formatAge, formatDifference, formatValue } from '@/core/quantity/format';
import { quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { convertible, valueFromBase, valueToBase } from '@/core/quantity/unit';
import { row } from '@/db/database';
import { atStation } from '../station/atStation';
import type { Context } from '../context';
import { personTime } from '../book/fieldBook';
import { badField, inTheWay, notFound } from '../problem';
import { recordCorrection, sensorNow, type SensorNow } from './live';
import { loadOpenCheck, unsettledWrite, type LoadedCheck } from './load';
import { recordAct } from '../book/recordAct';

/** Captures sensor and reference together: the sensor's value comes from the logger at that moment. */
export async function captureReading(
  ctx: Context,
  stationId: string,
  checkId: string,
  request: CaptureReading,
): Promise<{ readingId: string; difference: number }> {
  const known = await row(ctx.db.checkReading, { where: { stationId, id: request.readingId } });
  if (known) return { readingId: known.id, difference: known.difference };
  const check = await loadOpenCheck(ctx.db, stationId, checkId);
  const { plan } = check;
  const at = personTime(ctx, request.occurredAt);
  const phase = check.adjustments.length ? ('verification' as const) : ('as-found' as const);
  requireUnits(plan.quantity, 'reference', request.reference);
  const live = request.typed ? readOff(check, request.typed, at) : await askedNow(ctx, check, at);
  const correction = plan.adjustIn === 'record' ? await recordCorrection(ctx.db, check) : 0;
  const sensor = live.value + correction;
  requirePlausible(
    plan.quantity,
    'reference',
    request.reference,
    sensor,
    plan.referenceRange,
    2 * plan.guard,
    request.confirmed,
  );
  const reference = valueToBase(
    request.reference.value,
    request.reference.unit,
    quantityOf(plan.quantity).unit,
  );
  const pair = plan.temperature ? humidityPair(check, request, sensor, live.temperature, reference) : null;
  const settling = settlingOf(check, request, { t: live.t, value: sensor });
  const difference = pair ? pair.compared.difference : differenceOf(plan.quantity, sensor, reference);
  const q = quantityOf(plan.quantity);
  const d = plan.decimals;
  const compared = pair?.compared.referenceAtSensor ?? reference;
  await atStation(ctx, stationId, async (tx) => {
    // The logger was asked in between: what was true of the check then has to be true still.
    if (await row(ctx.db.checkReading, { where: { stationId, id: request.readingId }, transaction: tx }))
      return;
    const still = await loadOpenCheck(ctx.db, stationId, checkId, tx);
    if (still.adjustments.length !== check.adjustments.length)
      throw inTheWay(
        'adjusted-meanwhile',
        'An adjustment was made while this reading was taken.',
        'Take it again: it belongs to the verification now.',
      );
    const number =
      still.readings.filter((r) => r.phase === phase && r.round === still.adjustments.length && !r.excludedAt)
        .length + 1;
    await ctx.db.checkReading.create(
      {
        stationId,
        id: request.readingId,
        checkId,
        phase,
        round: check.adjustments.length,
        occurredAt: at,
        recordedAt: ctx.now(),
        recordedBy: ctx.person.id,
        sensorValue: sensor,
        referenceValue: reference,
        sensorTemperature: pair?.sensorTemperature ?? null,
        referenceTemperature: pair?.referenceTemperature ?? null,
        difference,
        settling,
        entered: {
          reference: request.reference,
          referenceTemperature: request.referenceTemperature ?? null,
          correction,
          watched: request.typed ? 0 : request.watched.length,
          ...(request.typed && { typed: request.typed }),
        },
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId: check.row.channelId,
      occurredAt: at,
      kind: 'check',
      text:
        `${phase === 'as-found' ? 'As found' : 'Verification'} ${number} of ${check.channel.name}: sensor ${formatValue(sensor, d)}${request.typed ? ' read off the display' : ''}, ` +
        `reference ${formatValue(reference, d)} ${q.unit}${pair ? airText(pair, d) : ''}, ${settling.state === 'said' ? 'said to stand still' : settling.state}`,
      sum: `${comparedSum(plan.quantity, sensor, compared, d)} ${q.unit}`,
      action: 'check.capture',
      subject: { checkId, readingId: request.readingId },
    });
  });
  return { readingId: request.readingId, difference };
}

/** In which air humidities were compared. */
const airText = (
  { compared, sensorTemperature, referenceTemperature }: ReturnType<typeof humidityPair>,
  decimals: number,
): string =>
  compared.method === 'direct'
    ? ` (in one air, ${formatValue(sensorTemperature, 2)} and ${formatValue(referenceTemperature, 2)} °C)`
    : ` (${formatValue(compared.referenceAtSensor, decimals)} at the sensor's ${formatValue(sensorTemperature, 2)} °C)`;

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
  return { ...live, value: live.value };
}

type Paired = SensorNow & { readonly value: number };

/** The sensor's side as a person read it off the logger's display. */
function readOff({ plan }: LoadedCheck, typed: TypedSensor, at: Date): Paired {
  requireUnits(plan.quantity, 'typed.sensor', typed.sensor);
  if (plan.temperature && !typed.sensorTemperature)
    throw badField(
      'temperature-missing',
      'typed.sensorTemperature',
      null,
      'The sensor’s temperature is missing.',
      'Humidity hangs on temperature: read both off the display.',
    );
  if (typed.sensorTemperature)
    requireUnits('airTemperature', 'typed.sensorTemperature', typed.sensorTemperature);
  const inBase = (quantity: QuantityCode, { value, unit }: EnteredValue) =>
    valueToBase(value, unit, quantityOf(quantity).unit);
  return {
    t: at.getTime() / 1000,
    value: inBase(plan.quantity, typed.sensor),
    temperature: typed.sensorTemperature ? inBase('airTemperature', typed.sensorTemperature) : null,
  };
}

function settlingOf({ plan }: LoadedCheck, request: CaptureReading, now: TimedValue): Settling {
  if (request.typed)
    return request.typed.stoodStill
      ? { state: 'said', window: plan.settleWindow }
      : { state: 'watching', watched: 0, window: plan.settleWindow };
  const watched: TimedValue[] = [...request.watched].sort((a, b) => a.t - b.t);
  if (now.t > (watched.at(-1)?.t ?? -Infinity)) watched.push(now);
  return judgeSettling(onALine(plan.quantity, watched), settlingRule(plan, request.placedAt ?? null));
}

function humidityPair(
  check: LoadedCheck,
  request: CaptureReading,
  sensor: number,
  sensorTemperature: number | null,
  reference: number,
) {
  const t = check.plan.temperature!;
  if (!request.referenceTemperature)
    throw badField(
      'temperature-missing',
      'referenceTemperature',
      null,
      'The reference’s temperature is missing.',
      'Humidity hangs on temperature: read both off the reference.',
    );
  if (sensorTemperature === null)
    throw inTheWay(
      'sensor-silent',
      'The logger has no temperature of this sensor just now.',
      'Talk to it under Connect.',
    );
  requireUnits('airTemperature', 'referenceTemperature', request.referenceTemperature);
  requirePlausible(
    'airTemperature',
    'referenceTemperature',
    request.referenceTemperature,
    sensorTemperature,
    t.referenceRange,
    6,
    request.confirmed,
  );
  const referenceTemperature = valueToBase(
    request.referenceTemperature.value,
    request.referenceTemperature.unit,
    '°C',
  );
  if (reference <= 0 || sensor <= 0)
    throw badField(
      'no-dew-point',
      'reference',
      reference,
      'Air of 0 %RH has no dew point to compare.',
      'Look at the instruments: one of them is broken or switched off.',
    );
  const compared = compareHumidity(
    {
      sensorHumidity: sensor,
      sensorTemperature,
      referenceHumidity: reference,
      referenceTemperature,
    },
    thermometersOf(check.plan),
  );
  return { compared, sensorTemperature, referenceTemperature };
}

function requireUnits(quantity: QuantityCode, field: string, entered: EnteredValue): void {
  const q = quantityOf(quantity);
  if (!convertible(entered.unit, q.unit))
    throw badField(
      'wrong-unit',
      field,
      entered.unit,
      `${q.name} is not read in ${entered.unit}.`,
      `Enter it in ${q.unit} or a unit that converts to it.`,
    );
}

function requirePlausible(
  quantity: QuantityCode,
  field: string,
  entered: EnteredValue,
  sensor: number,
  range: readonly [number, number],
  far: number,
  confirmed = false,
): void {
  const verdict = judgePlausible({ quantity, ...entered, sensor, range, far });
  if (verdict.kind === 'plausible' || (verdict.kind === 'far-off' && confirmed)) return;
  throw implausible(quantity, field, entered, verdict);
}

function implausible(
  quantity: QuantityCode,
  field: string,
  entered: EnteredValue,
  verdict: Exclude<Plausibility, { kind: 'plausible' }>,
) {
  const q = quantityOf(quantity);
  const shown = `${entered.value} ${entered.unit}`;
  if (verdict.kind === 'not-a-number')
    return badField(
      'not-a-number',
      field,
      String(entered.value),
      'The reference value is not a number.',
      'Enter the number on the display.',
    );
  const { meant } = verdict;
  const remedy = meant
    ? meant.why === 'unit'
      ? `Did you mean ${meant.value} ${meant.unit}? Choose that unit.`
      : `Did you mean ${meant.value} ${meant.unit}? Mind the decimal point.`
    : 'Read the display again.';
  if (verdict.kind === 'outside-range') {
    const at = (v: number) => formatValue(valueFromBase(v, entered.unit, q.unit), q.decimals);
    return badField(
      'outside-instrument-range',
      field,
      entered.value,
      `${shown} is outside what the instrument can show (${at(verdict.low)}–${at(verdict.high)} ${entered.unit}).`,
      remedy,
      { meant },
    );
  }
  return badField(
    'far-from-sensor',
    field,
    entered.value,
    `${shown} is far from the sensor's ${formatValue(valueFromBase(verdict.from, entered.unit, q.unit), q.decimals)} ${entered.unit}.`,
    `${remedy} If the display really shows this, confirm it.`,
    { meant, confirm: true },
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
    if (reading.excludedAt)
      throw inTheWay(
        'excluded-already',
        `This reading was excluded already: ${reading.excludedReason}.`,
        'Nothing needs to be done.',
      );
    if ((reading.phase === 'as-found' && check.adjustments.length) || (await unsettledWrite(ctx, tx, check)))
      throw inTheWay(
        'already-adjusted',
        'An adjustment was made, or is being made, from these readings.',
        'They can no longer be changed.',
      );
    await ctx.db.checkReading.update(
      { excludedAt: ctx.now(), excludedReason: request.reason },
      { where: { stationId, id: readingId, excludedAt: null }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId: check.row.channelId,
      occurredAt: ctx.now(),
      kind: 'check',
      text: `Excluded a reading of ${check.channel.name} (${formatDifference(reading.difference, check.plan.decimals)}): ${request.reason}`,
      action: 'check.exclude',
      subject: { checkId, readingId },
    });
  });
  return { excluded: readingId };
}
