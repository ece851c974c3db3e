import { formatValue, roundTo } from '../quantity/format';
import { barStateAt, barStates } from './barCorrection';
import { stoodAt, type LevelRead, type LevelReading, type LevelRevision } from './levelReading';
import { pressureDepth } from './pressureDepth';
import { writtenSum } from './writtenSum';

/** One number of a sum, m to the millimetre. */
export interface Term {
  readonly what: string;
  readonly value: number;
  /** Taken away, and not added. */
  readonly minus: boolean;
  /** What was read, and not what is on file. */
  readonly isRead: boolean;
}

export interface LevelSum {
  /** m above the station's zero; null for a check of the bar, a gauge without a mark, and where a correction is unknown. */
  readonly level: number | null;
  readonly terms: readonly Term[];
  /** "12.340 − 3.415 = 8.925 m" */
  readonly text: string;
  /** ± m, with what the elevation is good to. */
  readonly accuracy: number;
  /** When the water stood there, ms since epoch: of a crest when it came, null where nobody knows. */
  readonly stoodAt: number | null;
  /** The elevation it rests on, and where that was levelled. */
  readonly rests: { readonly pointId: string; readonly surveyId: string; readonly elevation: number } | null;
  /** Of a check of the bar: what is to be added to what the gauge reads, as it was found. */
  readonly correction: number | null;
  readonly doubts: readonly string[];
}

/** What a sum of a level rests on beside its reading. */
export interface LevelRecord {
  /** All readings of the station, in any order. */
  readonly readings: readonly LevelReading[];
  /** Those that hold. */
  readonly revisions: readonly LevelRevision[];
}

const plus = (what: string, value: number): Term => ({
  what,
  value: roundTo(value, 3),
  minus: false,
  isRead: false,
});
const less = (what: string, value: number): Term => ({ ...plus(what, value), minus: true });
const asRead = (term: Term): Term => ({ ...term, isRead: true });

/** What a reading comes to before anything is known of its level. */
interface Worked {
  readonly terms: readonly Term[];
  readonly doubts: readonly string[];
  /** Limits ± m beside that of the reading itself. */
  readonly limits: readonly number[];
  readonly rests?: LevelSum['rests'];
  /** What is missing, for the sum: "no check of the bar". */
  readonly missing?: string;
}

/**
 * The level that a reading means, with its sum: of the reading, the elevation that was on file for its point, the check
 * of the bar at the same visit, and what was found out since. It follows from what is stored alone.
 *
 * Source: common practice, no source; accuracies are combined by root sum of squares.
 *
 * @param reading one whose numbers `levelFault` finds nothing wrong with; RangeError for pressure out of reach
 * @param record all that is on file of the station's readings
 */
export function levelSum(reading: LevelReading, record: LevelRecord): LevelSum {
  const { read, pointId, elevation } = reading;
  const worked = workedOut(reading, record);
  const revised = record.revisions.filter((r) => r.readingId === reading.id);
  const terms = [
    ...worked.terms,
    ...revised.map((r) => plus(r.because === 'survey' ? 'later survey' : 'correction', r.adds)),
  ];
  const isKnown = worked.missing === undefined || revised.some((r) => r.because !== 'survey');
  const total = roundTo(
    terms.reduce((s, t) => s + (t.minus ? -t.value : t.value), 0),
    3,
  );
  const accuracy = roundTo(Math.hypot(reading.accuracy, ...worked.limits), 4);
  const doubts = [
    ...worked.doubts,
    ...revised.filter((r) => r.because !== 'survey').map((r) => `Correction assumed: ${r.reason}`),
  ];
  const isBar = read.kind === 'bar';
  const hasLevel = !isBar && isKnown && terms.length > 0;
  return {
    level: hasLevel ? total : null,
    terms,
    text: isBar ? barText(read, terms, total) : sumText(terms, isKnown ? total : null, worked.missing),
    accuracy,
    stoodAt: stoodAt(reading),
    rests:
      worked.rests !== undefined
        ? worked.rests
        : pointId !== null && elevation
          ? { pointId, surveyId: elevation.surveyId, elevation: elevation.elevation }
          : null,
    correction: isBar && elevation ? roundTo(elevation.elevation - read.reads, 4) : null,
    doubts,
  };
}

function workedOut(reading: LevelReading, record: LevelRecord): Worked {
  const { read, elevation } = reading;
  const base = elevation ? { value: elevation.elevation, limits: [elevation.accuracy] } : null;
  const onPoint = (what: string, of: Term, doubts: readonly string[] = []): Worked =>
    base
      ? { terms: [plus(what, base.value), asRead(of)], doubts, limits: base.limits }
      : { terms: [asRead(of)], doubts, limits: [], missing: 'elevation' };
  switch (read.kind) {
    case 'tape':
      return onPoint(
        'reference point',
        read.direction === 'down' ? less('tape-down', read.length) : plus('tape-up', read.length),
      );
    case 'staff':
      return onPoint('zero of the staff', plus('staff', read.reads));
    case 'bar':
      return onPoint('check bar', less('reads', read.reads));
    case 'wire':
      return wireWorked(reading, read, record);
    case 'crest':
      return read.mark === null
        ? { terms: [], doubts: crestDoubts(reading, read, record), limits: [] }
        : onPoint('index', plus('mark', read.mark), crestDoubts(reading, read, record));
    case 'radar': {
      const doubts = radarDoubts(read);
      if (read.shows === 'level')
        return { terms: [asRead(plus('shown', read.reads))], doubts, limits: [], rests: null };
      const tilt = read.inspected?.tilt ?? 0;
      const down = read.reads * Math.cos((tilt * Math.PI) / 180);
      return onPoint('sensor', less(tilt ? `distance, tilted ${tilt}°` : 'distance', down), doubts);
    }
    case 'pressure':
      return onPoint('sensor', plus('water above it', pressureDepth(read)));
    case 'sum': {
      const worked = writtenSum(read.sum);
      return {
        terms: (worked?.parts ?? []).map((p) => (p < 0 ? less('by hand', -p) : plus('by hand', p))),
        doubts: ['Worked out by hand: what it rests on is not on file.'],
        limits: [],
        rests: null,
      };
    }
  }
}

function wireWorked(
  reading: LevelReading,
  read: Extract<LevelRead, { kind: 'wire' }>,
  { readings }: LevelRecord,
): Worked {
  const water = asRead(plus('water', read.reads));
  const bar = barStateAt(barStates(readings, reading.pointId ?? ''), reading.at);
  if (!bar)
    return {
      terms: [water],
      doubts: ['No check of the bar at this visit: its correction is not known.'],
      limits: [],
      rests: null,
      missing: 'correction',
    };
  return {
    terms: [water, plus(bar.wasSet ? 'correction as set' : 'correction', bar.correction)],
    doubts: [],
    limits: [bar.elevation.accuracy, bar.accuracy],
    rests: {
      pointId: reading.pointId!,
      surveyId: bar.elevation.surveyId,
      elevation: bar.elevation.elevation,
    },
  };
}

/** The crest of the same gauge that was read last before. */
export const crestBefore = (reading: LevelReading, readings: readonly LevelReading[]): LevelReading | null =>
  readings
    .filter(
      (r) =>
        r.pointId === reading.pointId && r.read.kind === 'crest' && r.id !== reading.id && r.at < reading.at,
    )
    .reduce<LevelReading | null>((last, r) => (last && last.at > r.at ? last : r), null);

/** When a crest-stage gauge was wiped and recharged last before an instant; null for never. */
export const rechargedBefore = (
  pointId: string | null,
  at: number,
  readings: readonly LevelReading[],
): number | null =>
  readings.reduce<number | null>((last, r) => {
    const { read } = r;
    if (r.pointId !== pointId || read.kind !== 'crest' || r.at >= at || read.rechargedAt === null)
      return last;
    return Math.max(last ?? -Infinity, read.rechargedAt);
  }, null);

function crestDoubts(
  reading: LevelReading,
  read: Extract<LevelRead, { kind: 'crest' }>,
  { readings }: LevelRecord,
): string[] {
  const before = crestBefore(reading, readings)?.read;
  return [
    ...(read.condition === 'sound' ? [] : [`The gauge is ${read.condition}.`]),
    ...(read.mark !== null && read.cork !== 'line'
      ? [read.cork === 'none' ? 'No cork at the mark.' : 'The cork is scattered: the mark may be off.']
      : []),
    ...(read.mark !== null && before?.kind === 'crest' && before.rechargedAt === null
      ? ['Not recharged at the visit before: the mark may be of an earlier crest.']
      : []),
  ];
}

function radarDoubts({ inspected }: Extract<LevelRead, { kind: 'radar' }>): string[] {
  if (!inspected) return [];
  return [
    ...(inspected.nests ? ['Something nests in the beam or on the sensor.'] : []),
    ...(inspected.clear ? [] : ['The beam is not clear of wall, weed or ice.']),
    ...(inspected.tilt > mostTilt ? [`Tilted by ${inspected.tilt}°: level it, and read it again.`] : []),
  ];
}

/** A beam that leans more than this looks elsewhere, °. Common practice, no source. */
const mostTilt = 2;

const written = ({ value }: Term, isFirst: boolean): string =>
  value < 0 && !isFirst ? `(${formatValue(value, 3)})` : formatValue(value, 3);

function sumText(terms: readonly Term[], result: number | null, missing: string | undefined): string {
  if (terms.length === 0) return 'no mark';
  const left = terms
    .map((t, i) => `${i === 0 ? (t.minus ? '−' : '') : t.minus ? ' − ' : ' + '}${written(t, i === 0)}`)
    .join('');
  if (result === null) return `${left} + ? (${missing}) m`;
  return terms.length === 1 ? `${formatValue(result, 3)} m` : `${left} = ${formatValue(result, 3)} m`;
}

function barText(
  { reads, changed }: Extract<LevelRead, { kind: 'bar' }>,
  terms: readonly Term[],
  correction: number,
): string {
  if (terms.length < 2) return `bar reads ${formatValue(reads, 3)} m, elevation not on file`;
  const found = `${formatValue(terms[0]!.value, 3)} − ${formatValue(reads, 3)} = ${formatValue(correction, 3)} m`;
  if (!changed) return found;
  return `${found}, set to ${formatValue(changed.reads, 3)}: ${formatValue(roundTo(terms[0]!.value - changed.reads, 3), 3)} m`;
}
