import type { Transaction } from 'sequelize';
import type { DischargeKind } from '@/contract/discharge';
import type { TakeBackLevel, TakenBackKind } from '@/contract/water';
import { readNames } from '@/core/water/measuringPoint';
import { row, type Database } from '@/db/database';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';

/** What of a station's water can be taken back. */
export type WaterEntry = TakenBackKind | DischargeKind;

interface Where {
  readonly where: { readonly stationId: string; readonly id: string };
  readonly transaction: Transaction;
}
interface Found {
  readonly takenBackAt: Date | null;
  /** In words, for its line. */
  readonly says: string;
}
type Back = { takenBackAt: Date; takenBackBy: string; takenBackReason: string };

/** How each is found, and taken back. */
const entries: Readonly<
  Record<
    WaterEntry,
    {
      readonly find: (db: Database, of: Where) => Promise<Found | null>;
      readonly take: (db: Database, back: Back, of: Where) => Promise<unknown>;
    }
  >
> = {
  survey: {
    find: async (db, of) => {
      const s = await row(db.levelSurvey, of);
      return s && { ...s, says: `survey of ${time(s.surveyedAt)} by ${s.surveyedBy}` };
    },
    take: (db, back, of) => db.levelSurvey.update(back, of),
  },
  reading: {
    find: async (db, of) => {
      const r = await row(db.levelReading, of);
      return r && { ...r, says: `${readNames[r.read.kind].toLowerCase()} of ${time(r.readAt)}` };
    },
    take: (db, back, of) => db.levelReading.update(back, of),
  },
  revision: {
    find: async (db, of) => {
      const r = await row(db.levelRevision, of);
      return r && { ...r, says: `what was added to a level (${r.reason})` };
    },
    take: (db, back, of) => db.levelRevision.update(back, of),
  },
  section: {
    find: async (db, of) => {
      const s = await row(db.crossSection, of);
      return s && { ...s, says: `section of ${time(s.holdsFrom)}` };
    },
    take: (db, back, of) => db.crossSection.update(back, of),
  },
  gauging: {
    find: async (db, of) => {
      const g = await row(db.gauging, of);
      return g && { ...g, says: `gauging of ${time(g.begunAt)}` };
    },
    take: (db, back, of) => db.gauging.update(back, of),
  },
  rating: {
    find: async (db, of) => {
      const r = await row(db.levelRating, of);
      return r && { ...r, says: `rating ${r.number}` };
    },
    take: (db, back, of) => db.levelRating.update(back, of),
  },
  curve: {
    find: async (db, of) => {
      const c = await row(db.kCurve, of);
      return c && { ...c, says: `k curve ${c.number}` };
    },
    take: (db, back, of) => db.kCurve.update(back, of),
  },
};

const time = (at: Date): string => `${at.toISOString().slice(0, 16)}Z`;

/** Takes an entry of a station's water back: it stays on file, and what rests on it goes by what is left. */
export const takeBackWater = (
  ctx: Context,
  stationId: string,
  kind: WaterEntry,
  id: string,
  { reason }: TakeBackLevel,
): Promise<{ takenBack: string }> =>
  atStation(ctx, stationId, async (tx) => {
    const of: Where = { where: { stationId, id }, transaction: tx };
    const { find, take } = entries[kind];
    const found = await find(ctx.db, of);
    if (!found) throw notFound(kind, id);
    if (found.takenBackAt)
      throw inTheWay(
        'taken-back-already',
        `The ${kind} was taken back already.`,
        'Nothing needs to be done.',
      );
    const back = { takenBackAt: ctx.now(), takenBackBy: ctx.person.id, takenBackReason: reason };
    await take(ctx.db, back, of);
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'level',
      text: `Taken back: ${found.says}. ${reason}`,
      action: 'water.take-back',
      subject: { kind, id },
    });
    return { takenBack: id };
  });
