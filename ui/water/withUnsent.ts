import type { FieldWriteBodies } from '@/contract/fieldWrites';
import type { LevelReadingView, WaterView } from '@/contract/water';
import { elevationsOf, reduceSheet, sheetFault } from '@/core/water/levelling';
import type { PointElevation } from '@/core/water/measuringPoint';
import type { Queued } from '../outbox/queued';

/** Levels and surveys as they are once what this device keeps was sent. What was refused changes nothing. */
export const withUnsent = (view: WaterView, items: readonly Queued[]): WaterView =>
  items.filter((i) => i.stationId === view.stationId && i.state === 'waits').reduce(done, view);

function done(view: WaterView, { kind, body, person }: Queued): WaterView {
  if (kind === 'levelReading') return read(view, body as FieldWriteBodies['levelReading'], person.initials);
  if (kind === 'levelSurvey') return surveyed(view, body as FieldWriteBodies['levelSurvey'], person.initials);
  return view;
}

function read(view: WaterView, its: FieldWriteBodies['levelReading'], by: string): WaterView {
  if (view.readings.some((r) => r.id === its.readingId)) return view;
  const e = view.elevations.find((x) => x.surveyId === its.surveyId && x.pointId === its.pointId);
  const reading: LevelReadingView = {
    id: its.readingId,
    pointId: its.pointId,
    at: Date.parse(its.occurredAt),
    read: its.read,
    accuracy: its.accuracy,
    elevation: e ? { surveyId: e.surveyId, elevation: e.elevation, accuracy: e.accuracy } : null,
    by,
    lookedAgain: its.lookedAgain,
    // Compared once it was sent.
    against: null,
  };
  return { ...view, readings: [...view.readings, reading].sort((a, b) => b.at - a.at) };
}

function surveyed(view: WaterView, its: FieldWriteBodies['levelSurvey'], by: string): WaterView {
  if (view.surveys.some((s) => s.id === its.surveyId)) return view;
  const at = Date.parse(its.occurredAt);
  const isPoint = (name: string) => view.points.some((p) => p.id === name);
  const levelled = its.sheet && !sheetFault(its.sheet) ? elevationsOf(reduceSheet(its.sheet), isPoint) : [];
  const elevations: PointElevation[] = [
    ...levelled.map(({ point, ...e }) => ({ pointId: point, ...e })),
    ...its.stated,
  ].map((e) => ({ ...e, surveyId: its.surveyId, at }));
  return {
    ...view,
    elevations: [...view.elevations, ...elevations],
    surveys: [
      {
        id: its.surveyId,
        surveyedAt: its.occurredAt,
        surveyedBy: its.surveyedBy,
        note: its.note,
        sheet: its.sheet,
        by,
      },
      ...view.surveys,
    ],
  };
}
