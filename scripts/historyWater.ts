import type { LevelRead } from '@/core/water/levelReading';
import type { SheetRow } from '@/core/water/levelling';
import { roundTo } from '@/core/quantity/format';
import { rows } from '@/db/database';
import { elevationAt, type PointKind } from '@/core/water/measuringPoint';
import { newId } from '@/server/id';
import { waterFile } from '@/server/water/load';
import { addMeasuringPoint, setDatum } from '@/server/water/points';
import { addLevelReading } from '@/server/water/readings';
import { addSurvey } from '@/server/water/surveys';
import type { Play } from './historyPlay';

const day = 86_400_000;
const minute = 60_000;

const points: readonly (readonly [code: string, name: string, kind: PointKind])[] = [
  ['BM1', 'Bolt in the gate pier', 'benchmark'],
  ['RP1', 'Notch in the gate rail', 'reference-point'],
  ['ST1', 'Staff on the pier', 'staff'],
  ['WW1', 'Wire weight on the footbridge', 'wire-weight'],
  ['CS1', 'Crest pipe behind the pier', 'crest-stage'],
  ['RA1', 'Hand radar bracket', 'sensor'],
  ['BED', 'Sill', 'bed'],
];

/** Where they lie, m above the sluice's zero; the rail has settled by the second survey. */
const lies = { BM1: 5, RP1: 4.812, ST1: 0.003, WW1: 5.24, CS1: 2.6, RA1: 6.1, BED: -0.35 };
const settled = 0.006;

/** A circuit from the bolt, down to the water and back, a millimetre off at the end. */
function circuit(rail: number, id: Readonly<Record<string, string>>): SheetRow[] {
  const row = (
    point: string,
    back: number | null,
    between: number | null,
    fore: number | null,
  ): SheetRow => ({
    point: id[point] ?? point,
    back,
    between: between === null ? null : roundTo(between, 3),
    fore,
  });
  return [
    row('BM1', 1.32, null, null),
    row('RP1', null, 6.32 - rail, null),
    row('WW1', null, 6.32 - lies.WW1, null),
    row('RA1', null, 6.32 - lies.RA1, null),
    row('TP1', 1.105, null, 3.22),
    row('ST1', null, 4.205 - lies.ST1, null),
    row('CS1', null, 4.205 - lies.CS1, null),
    row('BED', null, 4.205 - lies.BED, null),
    row('TP2', 3.41, null, 1.205),
    row('BM1', null, null, 1.411),
  ];
}

/** A visit to the water: what the bar read, what it was set to, whether it was read at all. */
interface LevelVisit {
  readonly daysAgo: number;
  readonly hour: number;
  readonly bar: number | null;
  readonly setTo?: number;
  /** The crest pipe: whether there is a mark, whether its time was found, whether it was recharged. */
  readonly crest?: { readonly isDated: boolean; readonly isRecharged: boolean };
  readonly radar?: boolean;
}

/** The wire stretched in winter: found 12 mm off and set right; once the bar was forgotten. */
const visits: readonly LevelVisit[] = [
  { daysAgo: 75, hour: 9, bar: 5.24, crest: { isDated: false, isRecharged: true } },
  { daysAgo: 66, hour: 13, bar: 5.236 },
  { daysAgo: 52, hour: 14, bar: null },
  { daysAgo: 40, hour: 10, bar: 5.228, setTo: 5.24, crest: { isDated: true, isRecharged: true } },
  { daysAgo: 27, hour: 15, bar: 5.24 },
  { daysAgo: 13, hour: 8, bar: 5.241, crest: { isDated: false, isRecharged: false }, radar: true },
];

/** Points, surveys and visits to the water of the sluice channel. */
export async function playLevels(
  play: Play,
  stationId: string,
  levelAt: (ms: number) => number,
): Promise<void> {
  const { now, people } = play;
  const midnight = now - (now % day);
  const begin = midnight - 80 * day;
  const channel = (await rows(play.db.channel, { where: { stationId, quantity: 'waterLevel' } }))[0]!;
  await setDatum(play.at(begin), stationId, {
    datumId: newId(),
    basedOn: null,
    name: 'sluice zero',
    others: [{ name: 'Skerrow datum', zero: -1.25 }],
  });
  const id: Record<string, string> = {};
  for (const [code, name, kind] of points) {
    id[code] = newId();
    await addMeasuringPoint(play.at(begin), stationId, {
      pointId: id[code],
      code,
      name,
      kind,
      channelId: kind === 'benchmark' || kind === 'bed' ? null : channel.id,
    });
  }
  const survey = (ms: number, rail: number, isFirst: boolean) =>
    addSurvey(play.at(ms, people.admin), stationId, {
      surveyId: newId(),
      surveyedBy: 'AR, IK',
      note: isFirst ? 'Low water, no wind.' : 'The rail leans where the barrow runs against it.',
      sheet: { start: lies.BM1, end: null, rows: circuit(rail, id) },
      stated: isFirst ? [{ pointId: id.BM1!, elevation: lies.BM1, accuracy: 0.002 }] : [],
      keptBecause: null,
      occurredAt: new Date(ms).toISOString(),
    });
  await survey(begin + 10 * 60 * minute, lies.RP1, true);
  await survey(midnight - 20 * day + 11 * 60 * minute, lies.RP1 - settled, false);

  const { elevations } = await waterFile(play.db, stationId);
  const read = (ms: number, code: string, of: LevelRead, rests = true) =>
    addLevelReading(play.at(ms), stationId, {
      readingId: newId(),
      pointId: id[code]!,
      read: of,
      accuracy: code === 'ST1' ? 0.005 : 0.003,
      surveyId: rests ? elevationAt(elevations, id[code]!, ms)!.surveyId : null,
      lookedAgain: false,
      occurredAt: new Date(ms).toISOString(),
    });
  let recharged: number | null = null;
  for (const v of visits) {
    let ms = midnight - v.daysAgo * day + v.hour * 60 * minute;
    const next = () => (ms += 3 * minute + 20_000);
    const rail = lies.RP1 - (v.daysAgo < 20 ? settled : 0);
    await read(next(), 'RP1', {
      kind: 'tape',
      direction: 'down',
      length: roundTo(rail - levelAt(ms), 3),
    });
    await read(next(), 'ST1', { kind: 'staff', reads: roundTo(levelAt(ms) - lies.ST1, 2) });
    if (v.bar !== null) {
      next();
      const changed = v.setTo === undefined ? null : { reads: v.setTo, at: ms + 2 * minute };
      await read(ms, 'WW1', { kind: 'bar', reads: v.bar, changed });
      ms += 3 * minute;
    }
    // What the gauge shows of the water is off by as much as on the bar.
    const off = (v.setTo ?? v.bar ?? 5.232) - lies.WW1;
    await read(next(), 'WW1', { kind: 'wire', reads: roundTo(levelAt(ms) + off, 3) }, false);
    if (v.radar)
      await read(next(), 'RA1', {
        kind: 'radar',
        shows: 'distance',
        reads: roundTo(lies.RA1 - levelAt(ms), 3),
        inspected: { nests: false, tilt: 0, clear: true },
      });
    if (v.crest) {
      next();
      const peak = recharged === null ? null : crestOf(levelAt, recharged, ms);
      await read(
        ms,
        'CS1',
        {
          kind: 'crest',
          mark: peak && roundTo(peak.level - lies.CS1, 3),
          condition: 'sound',
          cork: peak ? 'line' : 'none',
          peakAt: v.crest.isDated ? peak!.at : null,
          rechargedAt: v.crest.isRecharged ? ms : null,
        },
        peak !== null,
      );
      if (v.crest.isRecharged) recharged = ms;
    }
  }
}

/** The highest the water stood between two instants, to ten minutes. */
function crestOf(
  levelAt: (ms: number) => number,
  from: number,
  until: number,
): { at: number; level: number } {
  let top = { at: from, level: levelAt(from) };
  for (let at = from; at <= until; at += 10 * minute) {
    const level = levelAt(at);
    if (level > top.level) top = { at, level };
  }
  return top;
}
