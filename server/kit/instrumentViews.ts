import type { InstrumentView } from '@/contract/checkViews';
import { noCare } from '@/core/kit/care';
import { rows, type Database } from '@/db/database';
import type { CalibrationRow, InstrumentRow } from '@/db/rows';
import { daysPast } from './daysPast';
import { foundOffNow } from './foundOffNow';

/** Instruments as whoever takes one into the hand has to know them: in date, corrected by, found off, how to treat. */
export async function instrumentViews(
  db: Database,
  instruments: readonly InstrumentRow[],
  now: Date,
): Promise<InstrumentView[]> {
  if (instruments.length === 0) return [];
  const where = { instrumentId: instruments.map((i) => i.id) };
  const [off, calibrations, cares] = await Promise.all([
    foundOffNow(db),
    rows(db.calibration, { where, order: newestCalibration }),
    rows(db.instrumentCare, { where, order: [['recordedAt', 'DESC']] }),
  ]);
  return instruments.map((i): InstrumentView => ({
    id: i.id,
    name: i.name,
    model: i.model,
    serial: i.serial,
    calibratedOn: i.calibratedOn,
    dueOn: i.dueOn,
    overdueDays: daysPast(i.dueOn, now),
    linked: i.link !== null,
    quantities: i.quantities,
    certified: calibrations.find((c) => holds(c, i.id, now))?.says ?? [],
    care: cares.find((c) => c.instrumentId === i.id)?.care ?? noCare,
    foundOff: off.get(i.id) ?? [],
  }));
}

export const newestCalibration = [
  ['doneOn', 'DESC'],
  ['recordedAt', 'DESC'],
] satisfies [string, string][];

/** Whether a calibration is of an instrument, and was done by then. */
export const holds = (c: CalibrationRow, instrumentId: string, at: Date): boolean =>
  c.instrumentId === instrumentId && c.doneOn <= at.toISOString().slice(0, 10);

/** One of them. */
export const instrumentView = async (
  db: Database,
  instrument: InstrumentRow,
  now: Date,
): Promise<InstrumentView> => (await instrumentViews(db, [instrument], now))[0]!;
