import { formatValue } from '../quantity/format';
import { rechargedBefore, type LevelSum } from './levelSum';
import type { LevelRead, LevelReading } from './levelReading';
import { pointRules, readNames, type PointKind } from './measuringPoint';
import { writtenSum } from './writtenSum';

/** What is wrong with a reading, or to be asked about it. */
export interface LevelFault {
  readonly field: string;
  readonly value: unknown;
  readonly says: string;
  readonly remedy: string;
}

/** The point of a reading, as far as its reading goes by it. */
interface ReadPoint {
  readonly name: string;
  readonly kind: PointKind;
}

/** Longest tape anyone lets down, m. */
const longestTape = 200;

/**
 * What a reading cannot be: refused wherever it comes from. Null for nothing.
 *
 * @param reading as entered
 * @param point null where the level was worked out by hand beside any point
 * @param readings all others of the station: a crest is later than the last recharge
 */
export function levelFault(
  reading: LevelReading,
  point: ReadPoint | null,
  readings: readonly LevelReading[],
): LevelFault | null {
  const { read, accuracy } = reading;
  if (!(accuracy > 0 && accuracy <= 1))
    return {
      field: 'accuracy',
      value: accuracy,
      says: `A reading that is good to ±${accuracy} m says nothing.`,
      remedy: 'Enter what it is good to, in m: 0.003 for 3 mm.',
    };
  if (!point && read.kind !== 'sum')
    return {
      field: 'pointId',
      value: null,
      says: `${readNames[read.kind]}: read from which point?`,
      remedy: 'Choose a measuring point, or work the level out by hand.',
    };
  if (point && !pointRules[point.kind].reads.includes(read.kind))
    return {
      field: 'read.kind',
      value: read.kind,
      says: `${point.name} (${pointRules[point.kind].name.toLowerCase()}) is not read so.`,
      remedy: `Choose: ${pointRules[point.kind].reads.map((r) => readNames[r].toLowerCase()).join(', ') || 'another point'}.`,
    };
  if (point && needsElevation(read) && !reading.elevation)
    return {
      field: 'pointId',
      value: point.name,
      says: `${point.name} has no elevation on file for that time.`,
      remedy: 'Work the level out by hand and enter it with its sum, or enter the survey first.',
    };
  return faultOf(read, reading, readings);
}

/** Whether the level of a reading takes the elevation of its point. A wire weight takes that of its bar. */
export const needsElevation = (read: LevelRead): boolean =>
  !(
    read.kind === 'wire' ||
    read.kind === 'sum' ||
    (read.kind === 'radar' && read.shows === 'level') ||
    (read.kind === 'crest' && read.mark === null)
  );

function faultOf(
  read: LevelRead,
  reading: LevelReading,
  readings: readonly LevelReading[],
): LevelFault | null {
  const far = (field: string, value: number, most: number): LevelFault | null =>
    Math.abs(value) <= most
      ? null
      : {
          field: `read.${field}`,
          value,
          says: `${formatValue(value, 3)} m is beyond anything read by hand (${most} m).`,
          remedy: 'Type metres: 3.415 for 3415 mm.',
        };
  switch (read.kind) {
    case 'tape':
      if (read.length < 0)
        return {
          field: 'read.length',
          value: read.length,
          says: `A tape-${read.direction} of ${formatValue(read.length, 3)} m lies ${read.direction === 'down' ? 'above' : 'below'} the point.`,
          remedy: `Enter it as a tape-${read.direction === 'down' ? 'up' : 'down'}, without the sign.`,
        };
      return far('length', read.length, longestTape);
    case 'staff':
      return far('reads', read.reads, 30);
    case 'wire':
      return far('reads', read.reads, 9000);
    case 'bar':
      return far('reads', read.reads, 9000) ?? barFault(read, reading.at);
    case 'crest':
      return (read.mark === null ? null : far('mark', read.mark, 10)) ?? crestFault(read, reading, readings);
    case 'radar':
      return radarFault(read) ?? far('reads', read.reads, read.shows === 'level' ? 9000 : longestTape);
    case 'pressure':
      return pressureFault(read);
    case 'sum':
      return writtenSum(read.sum)
        ? null
        : {
            field: 'read.sum',
            value: read.sum,
            says: `"${read.sum}" is no sum of numbers, or does not come to what stands behind "=".`,
            remedy: 'Write it as it is worked out: 12.340 − 3.415.',
          };
  }
}

function barFault({ changed }: Extract<LevelRead, { kind: 'bar' }>, at: number): LevelFault | null {
  if (!changed || changed.at >= at) return null;
  return {
    field: 'read.changed.at',
    value: new Date(changed.at).toISOString(),
    says: 'The bar was set before it was read as found.',
    remedy: 'Give the time at which it was set; what it read before belongs to the time before.',
  };
}

function crestFault(
  { mark, peakAt, rechargedAt }: Extract<LevelRead, { kind: 'crest' }>,
  reading: LevelReading,
  readings: readonly LevelReading[],
): LevelFault | null {
  const iso = (ms: number) => `${new Date(ms).toISOString().slice(0, 16)}Z`;
  if (mark === null && peakAt !== null)
    return {
      field: 'read.peakAt',
      value: iso(peakAt),
      says: 'A gauge without a mark tells of no crest.',
      remedy: 'Leave the time of the crest empty.',
    };
  if (peakAt !== null && peakAt > reading.at)
    return {
      field: 'read.peakAt',
      value: iso(peakAt),
      says: `The crest of ${iso(peakAt)} is later than the reading of it.`,
      remedy: 'Correct the time, or leave it empty.',
    };
  const recharged = rechargedBefore(reading.pointId, reading.at, readings);
  if (peakAt !== null && recharged !== null && peakAt < recharged)
    return {
      field: 'read.peakAt',
      value: iso(peakAt),
      says: `The gauge was wiped and recharged at ${iso(recharged)}: a crest of ${iso(peakAt)} cannot be this mark.`,
      remedy: 'Choose a later crest, or leave the time empty.',
    };
  if (rechargedAt !== null && rechargedAt < reading.at)
    return {
      field: 'read.rechargedAt',
      value: iso(rechargedAt),
      says: 'The gauge was recharged before its mark was read.',
      remedy: 'Read the mark first; give the time at which it was wiped and recharged.',
    };
  return null;
}

function radarFault({ reads, shows, inspected }: Extract<LevelRead, { kind: 'radar' }>): LevelFault | null {
  if (shows === 'distance' && reads <= 0)
    return {
      field: 'read.reads',
      value: reads,
      says: `A distance of ${formatValue(reads, 3)} m is none.`,
      remedy: 'Read it again, or choose that it shows a level.',
    };
  if (inspected && !(inspected.tilt >= 0 && inspected.tilt <= 45))
    return {
      field: 'read.inspected.tilt',
      value: inspected.tilt,
      says: `A tilt of ${inspected.tilt}° is not within 0–45°.`,
      remedy: 'Enter degrees off the plumb line.',
    };
  return null;
}

function pressureFault(read: Extract<LevelRead, { kind: 'pressure' }>): LevelFault | null {
  const { pressure, air, temperature, salinity } = read;
  const out = (field: string, value: number, low: number, high: number, unit: string): LevelFault | null =>
    value >= low && value <= high
      ? null
      : {
          field: `read.${field}`,
          value,
          says: `${value} ${unit} is not within ${low}–${high} ${unit}.`,
          remedy: `Enter it in ${unit || 'practical salinity'}.`,
        };
  return (
    out('temperature', temperature, 0, 40, '°C') ??
    out('salinity', salinity, 0, 42, '') ??
    (air === null ? null : out('air', air, 500, 1100, 'hPa')) ??
    out('pressure', pressure, air === null ? -50 : 500, 25_000, 'hPa')
  );
}

/** What a level is looked at beside before it is kept. */
export interface LevelBeside {
  /** What the record says at about that time, m above the station's zero; null where it says nothing. */
  readonly logged: number | null;
  /** Largest difference that needs no second look, m, > 0. */
  readonly far: number;
  /** Lowest point of the bed, m; null where it is not on file. */
  readonly bed: number | null;
}

/** What a reading may have been meant as: what it was typed as, in words, and what to multiply it by. */
const slips: readonly (readonly [says: string, factor: number])[] = [
  ['Were feet typed for metres?', 0.3048],
  ['Were millimetres typed for metres?', 0.001],
  ['Were centimetres typed for metres?', 0.01],
  ['Did the decimal point slip?', 10],
  ['Did the decimal point slip?', 0.1],
];

/**
 * What a level may be, but hardly is: asked about, and kept once somebody looked again. Null for nothing, and where there
 * is no level.
 *
 * Source: common practice, no source.
 *
 * @param sum of the reading
 * @param beside levels in m above the station's zero
 */
export function levelQuestion({ level, terms }: LevelSum, beside: LevelBeside): LevelFault | null {
  const { logged, far, bed } = beside;
  if (level === null) return null;
  const ask = (says: string, remedy: string): LevelFault => ({ field: 'read', value: level, says, remedy });
  const text = formatValue(level, 3);
  if (logged !== null && Math.abs(level - logged) > far) {
    const read = terms.find((t) => t.isRead);
    const meant = slips.find(([, factor]) => {
      if (!read) return false;
      const change = read.value * factor - read.value;
      return Math.abs(level + (read.minus ? -change : change) - logged) <= far;
    });
    return ask(
      `${text} m is ${formatValue(Math.abs(level - logged), 3)} m from the ${formatValue(logged, 3)} m logged about then.`,
      meant?.[0] ?? 'Is it the right point? Read it again.',
    );
  }
  if (bed !== null && level < bed)
    return ask(
      `${text} m lies ${formatValue(bed - level, 3)} m below the lowest point of the bed (${formatValue(bed, 3)} m).`,
      'Read it again; is it dry?',
    );
  return null;
}
