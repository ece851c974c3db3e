import type { AddLevelReading, AddMeasuringPoint, AddSurvey } from '@/contract/water';
import type { LevelRead } from '@/core/water/levelReading';
import type { PointKind } from '@/core/water/measuringPoint';
import { addStation } from '@/server/administer/addStation';
import type { Context } from '@/server/context';
import { newId } from '@/server/id';
import { typeReadings } from '@/server/record/typeReadings';
import { addMeasuringPoint } from '@/server/water/points';
import { addLevelReading } from '@/server/water/readings';
import { addSurvey } from '@/server/water/surveys';
import { rows } from '@/db/database';
import { present } from './bench';
import { onBench, type Made } from './onBench';

const hour = 3_600_000;
export const isoAt = (hours: number): string => new Date(present + hours * hour).toISOString();

export const newPoint = (
  code: string,
  kind: PointKind,
  channelId: string | null = null,
): AddMeasuringPoint => ({ pointId: newId(), code, name: `Point ${code}`, kind, channelId });

/** A survey that only states what points lie at. */
export const statedSurvey = (
  elevations: Readonly<Record<string, number>>,
  hours: number,
  change: Partial<AddSurvey> = {},
): AddSurvey => ({
  surveyId: newId(),
  surveyedBy: 'AR',
  note: '',
  sheet: null,
  stated: Object.entries(elevations).map(([pointId, elevation]) => ({ pointId, elevation, accuracy: 0.002 })),
  keptBecause: null,
  occurredAt: isoAt(hours),
  ...change,
});

export const newReading = (
  pointId: string | null,
  read: LevelRead,
  surveyId: string | null,
  hours: number,
): AddLevelReading => ({
  readingId: newId(),
  pointId,
  read,
  accuracy: 0.003,
  surveyId,
  lookedAgain: false,
  occurredAt: isoAt(hours),
});

/** A pool with a typed record of its level, points that were levelled a thousand hours ago. */
export interface Pool extends Made {
  readonly stationId: string;
  readonly channelId: string;
  /** Points by their codes. */
  readonly point: Readonly<Record<'RP1' | 'ST1' | 'WW1' | 'CS1' | 'BED', string>>;
  readonly surveyId: string;
  at(hours?: number): Context;
  read(code: keyof Pool['point'], read: LevelRead, hours: number, rests?: boolean): Promise<string>;
}

/** Sinks evenly from 2.300 m twenty hours ago to 2.100 m now, typed every two hours. */
export const poolLevel = (hours: number): number => 2.1 - hours / 100;

export function onPool(take: (made: Pool) => void): void {
  let made: Made;
  onBench((m) => (made = m));
  beforeAll(async () => {
    const { bench, test_ } = made;
    const at = (hours = 0): Context => bench.at(present + hours * hour);
    const { stationId } = await addStation(
      { ...at(-1100), person: bench.people.administrator },
      { site: { name: 'Peat Pool', zone: 'Etc/UTC' }, code: 'POOL-1', name: 'Pool outlet' },
    );
    await typeReadings(at(), stationId, {
      readingsId: newId(),
      channel: { kind: 'new', quantity: 'waterLevel', zoneName: 'Outlet' },
      unit: 'm',
      readings: Array.from({ length: 11 }, (_, i) => ({
        at: isoAt(2 * i - 20),
        value: Number(poolLevel(2 * i - 20).toFixed(3)),
      })),
    });
    const [channel] = await rows(test_.db.channel, { where: { stationId } });
    const channelId = channel!.id;
    const points = [
      newPoint('RP1', 'reference-point', channelId),
      newPoint('ST1', 'staff', channelId),
      newPoint('WW1', 'wire-weight', channelId),
      newPoint('CS1', 'crest-stage', channelId),
      newPoint('BED', 'bed'),
    ];
    for (const p of points) await addMeasuringPoint(at(-1050), stationId, p);
    const point = Object.fromEntries(points.map((p) => [p.code, p.pointId])) as Pool['point'];
    const survey = statedSurvey(
      { [point.RP1]: 5, [point.ST1]: 0, [point.WW1]: 6, [point.CS1]: 2, [point.BED]: 0.5 },
      -1000,
    );
    await addSurvey(at(-1000), stationId, survey);
    take({
      ...made,
      stationId,
      channelId,
      point,
      surveyId: survey.surveyId,
      at,
      async read(code, read, hours, rests = true) {
        const request = newReading(point[code], read, rests ? survey.surveyId : null, hours);
        await addLevelReading(at(hours), stationId, request);
        return request.readingId;
      },
    });
  });
}
