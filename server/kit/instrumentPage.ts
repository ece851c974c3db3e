import { Op } from 'sequelize';
import type { FindingOfInstrument, InstrumentPage } from '@/contract/foundOff';
import type { CalibrationView, CrossCheckView } from '@/contract/instruments';
import { crossCheck } from '@/core/kit/crossCheck';
import { certificateFor, movedSince } from '@/core/kit/certificate';
import { quantityOf } from '@/core/quantity/quantity';
import { row, rows, type Database } from '@/db/database';
import type { CalibrationRow, CrossCheckRow, InstrumentRow } from '@/db/rows';
import { isId } from '../id';
import { notFound } from '../problem';
import { holds, instrumentView, instrumentViews, newestCalibration } from './instrumentViews';

export async function instrumentOf(db: Database, instrumentId: string): Promise<InstrumentRow> {
  const found = isId(instrumentId) ? await row(db.instrument, { where: { id: instrumentId } }) : null;
  if (!found) throw notFound('reference instrument', instrumentId);
  return found;
}

/** One instrument over the years: calibrated, compared with others, found off, how to treat it. */
export async function instrumentPage(db: Database, instrumentId: string, now: Date): Promise<InstrumentPage> {
  const instrument = await instrumentOf(db, instrumentId);
  const [found, allCalibrations, compared, care, people, all, view] = await Promise.all([
    rows(db.instrumentFinding, { where: { instrumentId }, order: [['foundAt', 'DESC']] }),
    rows(db.calibration, { order: newestCalibration }),
    rows(db.crossCheck, {
      where: { [Op.or]: [{ instrumentId }, { otherId: instrumentId }] },
      order: [['comparedAt', 'DESC']],
      limit: 40,
    }),
    row(db.instrumentCare, { where: { instrumentId }, order: [['recordedAt', 'DESC']] }),
    rows(db.person),
    rows(db.instrument),
    instrumentView(db, instrument, now),
  ]);
  const calibrations = allCalibrations.filter((c) => c.instrumentId === instrumentId);
  const initials = (personId: string) => people.find((p) => p.id === personId)?.initials ?? '?';
  const shared = all.filter(
    (i) =>
      i.id !== instrumentId &&
      !i.retiredAt &&
      i.quantities.some((q) => instrument.quantities.some((own) => own.quantity === q.quantity)),
  );
  return {
    instrument: view,
    findings: found
      .filter((f) => f.revokes === null)
      .map((f): FindingOfInstrument => ({
        id: f.id,
        quantity: f.quantity,
        by: f.offBy,
        goodUntil: f.goodUntil.toISOString(),
        foundAt: f.foundAt.toISOString(),
        why: f.why,
        initials: initials(f.personId),
        isTakenBack: found.some((other) => other.revokes === f.id),
      })),
    calibrations: calibrations.map((c, i) =>
      calibrationView(c, calibrations[i + 1] ?? null, initials(c.personId)),
    ),
    crossChecks: compared.flatMap((c) =>
      crossCheckView(c, instrument, all, allCalibrations, initials(c.personId)),
    ),
    careId: care?.id ?? null,
    others: await instrumentViews(db, shared, now),
  };
}

const calibrationView = (
  { id, doneOn, dueOn, certificate, says }: CalibrationRow,
  before: CalibrationRow | null,
  initials: string,
): CalibrationView => ({
  id,
  doneOn,
  dueOn,
  certificate,
  says: says.map((s) => {
    const earlier = before?.says.find((b) => b.quantity === s.quantity);
    return { ...s, moved: earlier ? movedSince(earlier, s) : null };
  }),
  initials,
});

/** As seen from one of the two. */
function crossCheckView(
  c: CrossCheckRow,
  instrument: InstrumentRow,
  all: readonly InstrumentRow[],
  calibrations: readonly CalibrationRow[],
  initials: string,
): CrossCheckView[] {
  const isFirst = c.instrumentId === instrument.id;
  const other = all.find((i) => i.id === (isFirst ? c.otherId : c.instrumentId));
  const [own, its] = [instrument, other].map((i) => i?.quantities.find((q) => q.quantity === c.quantity));
  if (!other || !own || !its) return [];
  // Newest first: what was known of both on the day they were compared.
  const certificate = (id: string) =>
    certificateFor(calibrations.find((k) => holds(k, id, c.comparedAt))?.says ?? [], c.quantity);
  const [ownCertificate, itsCertificate] = [certificate(instrument.id), certificate(other.id)];
  const { budget, agrees, pairs } = crossCheck(
    c.quantity,
    c.pairs.map((p) => (isFirst ? ([p.one, p.other] as const) : ([p.other, p.one] as const))),
    { ...own, certificate: ownCertificate },
    { ...its, certificate: itsCertificate },
  );
  return [
    {
      id: c.id,
      other: { id: other.id, name: other.name, serial: other.serial },
      quantity: c.quantity,
      unit: quantityOf(c.quantity).unit,
      at: c.comparedAt.toISOString(),
      place: c.place,
      pairs: pairs.map(([one, two]) => ({ one, other: two })),
      isPutRight: ownCertificate !== null || itsCertificate !== null,
      difference: budget.meanDifference,
      limit: budget.gum.U,
      agrees,
      initials,
    },
  ];
}
