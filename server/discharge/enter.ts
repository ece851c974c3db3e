import type { Transaction } from 'sequelize';
import type { AddGauging, AddSection, SetCurve } from '@/contract/discharge';
import { usualK, type Support } from '@/core/discharge/curve';
import { gaugedK, isGauged } from '@/core/discharge/gaugedK';
import { gaugingFault, reckonSheet, sheetNames } from '@/core/discharge/gaugingSheet';
import { inForceAt } from '@/core/discharge/inForce';
import { sectionFault, sectionTable, type SectionPoint } from '@/core/discharge/section';
import { formatValue } from '@/core/quantity/format';
import { row } from '@/db/database';
import { holds } from '../book/holds';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, instantOf, inTheWay } from '../problem';
import { atStation } from '../station/atStation';
import { requireStation } from '../water/points';
import { dischargeFile, sectionOf } from './load';
import { meanwhileOf } from './meanwhile';

/** A cross-section as it was measured: it holds from its day on. */
export async function addSection(
  ctx: Context,
  stationId: string,
  { sectionId, points, uncertainty, holdsFrom, note }: AddSection,
): Promise<{ sectionId: string }> {
  await requireStation(ctx, stationId);
  const fault = sectionFault(points);
  if (fault)
    throw badField(
      'bad-section',
      fault.point === null ? 'points' : `points.${fault.point}`,
      fault.point,
      fault.says,
      fault.remedy,
    );
  const from = instantOf('holdsFrom', holdsFrom);
  return atStation(ctx, stationId, async (tx) => {
    const { sections } = await dischargeFile(ctx.db, stationId, tx);
    const day = from.toISOString().slice(0, 10);
    if (sections.some((s) => s.holdsFrom.toISOString().slice(0, 10) === day))
      throw inTheWay(
        'section-that-day',
        `A section of ${day} is on file already.`,
        'Take that one back first, or give the day this one was measured.',
      );
    await ctx.db.crossSection.create(
      {
        stationId,
        id: sectionId,
        holdsFrom: from,
        points,
        uncertainty,
        note,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
        ...holds,
      },
      { transaction: tx },
    );
    const low = Math.min(...points.map((p) => p.elevation));
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'discharge',
      text: `Cross-section of ${day}: ${points.length} points, lowest ${formatValue(low, 3)} m${note && `. ${note}`}`,
      action: 'discharge.section',
      subject: { sectionId },
    });
    return { sectionId };
  });
}

/** A gauging as it was entered, with what the station measured meanwhile. */
export async function addGauging(
  ctx: Context,
  stationId: string,
  request: AddGauging,
): Promise<{ gaugingId: string; discharge: number }> {
  await requireStation(ctx, stationId);
  const { gaugingId, sheet, velocityUncertainty, note } = request;
  const fault = gaugingFault(sheet);
  if (fault) throw badField('bad-gauging', 'sheet', sheet.kind, fault, 'Correct the sheet.');
  const [begunAt, endedAt] = [instantOf('begunAt', request.begunAt), instantOf('endedAt', request.endedAt)];
  if (!(endedAt > begunAt))
    throw badField(
      'empty-span',
      'endedAt',
      request.endedAt,
      'The gauging ends before it begins.',
      'Give when it began and when it ended.',
    );
  if (endedAt.getTime() > ctx.now().getTime() + 10 * 60_000)
    throw badField(
      'future-time',
      'endedAt',
      request.endedAt,
      'The gauging ends in the future.',
      'Correct the times.',
    );
  const { discharge, U, sum } = reckonSheet(sheet);
  const meanwhile = request.meanwhile ?? (await meanwhileOf(ctx, stationId, begunAt, endedAt));
  return atStation(ctx, stationId, async (tx) => {
    const { sections } = await dischargeFile(ctx.db, stationId, tx);
    const section = inForceAt(sections.map(sectionOf), begunAt.getTime());
    const { velocity } = meanwhile;
    const bank = section && lowerBank(section.points);
    if (bank !== null && meanwhile.level > bank)
      throw badField(
        'outside-section',
        'meanwhile.level',
        meanwhile.level,
        `At ${formatValue(meanwhile.level, 3)} m the water stood above the lower end of the section (${formatValue(bank, 3)} m): its area is not known there.`,
        'Measure the section up to there and enter it first, or look at the level again.',
      );
    if (section && velocity !== null) {
      const gauged = gaugedK(
        { discharge, U, ...meanwhile, velocity, velocityU: velocityUncertainty },
        sectionTable(section.points),
      );
      if (!isGauged(gauged))
        throw badField(
          'gauging-against',
          'meanwhile',
          gauged.kind,
          {
            dry: `At ${formatValue(meanwhile.level, 3)} m the section is dry.`,
            'no-velocity': 'Without a surface velocity a gauging says nothing of k.',
            against: `The gauging says ${formatValue(discharge, 3)} m³/s, the surface velocity ${formatValue(velocity, 3)} m/s: one up, one down.`,
          }[gauged.kind],
          'Look at times and signs: against the stream both are negative.',
        );
    }
    await ctx.db.gauging.create(
      {
        stationId,
        id: gaugingId,
        begunAt,
        endedAt,
        sheet,
        ...meanwhile,
        velocityUncertainty,
        note,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
        ...holds,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: endedAt,
      kind: 'discharge',
      text: `Gauging (${sheetNames[sheet.kind].toLowerCase()}): ${formatValue(discharge, 3)} m³/s ± ${formatValue(100 * U, 1)} %, at ${formatValue(meanwhile.level, 3)} m${velocity === null ? '' : ` and ${formatValue(velocity, 3)} m/s`}${note && `. ${note}`}`,
      sum,
      action: 'discharge.gauging',
      subject: { gaugingId },
    });
    return { gaugingId, discharge };
  });
}

/** Up to where a section tells its area, m. */
const lowerBank = (points: readonly SectionPoint[]): number =>
  Math.min(points[0]!.elevation, points.at(-1)!.elevation);

/** Leads the k curve anew: another version of it, from an instant on. */
export async function setCurve(
  ctx: Context,
  stationId: string,
  request: SetCurve,
): Promise<{ curveId: string; number: number }> {
  await requireStation(ctx, stationId);
  const { curveId, basedOn, forward, reverse, uncertainty, note } = request;
  for (const [field, of] of [
    ['forward', forward],
    ['reverse', reverse ?? []],
  ] as const)
    requireCurve(field, of, request.lookedAgain);
  const from = instantOf('holdsFrom', request.holdsFrom);
  return atStation(ctx, stationId, async (tx) => {
    const { curves, gaugings } = await dischargeFile(ctx.db, stationId, tx);
    const last = curves.at(-1) ?? null;
    if ((last?.id ?? null) !== basedOn)
      throw inTheWay(
        'led-meanwhile',
        `The curve was led anew meanwhile: curve ${last?.number ?? '–'} is the last.`,
        'Load the page again and look at that one first.',
      );
    const number = 1 + (await newestNumber(ctx, tx, stationId));
    await ctx.db.kCurve.create(
      {
        stationId,
        id: curveId,
        number,
        holdsFrom: from,
        forward,
        reverse,
        uncertainty,
        gaugings: gaugings.map((g) => g.id),
        note,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
        ...holds,
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'discharge',
      text: `k curve ${number} from ${from.toISOString().slice(0, 16)}Z: ${note}`,
      sum: forward.map((s) => `${formatValue(s.k, 3)} at ${formatValue(s.level, 2)} m`).join(', '),
      action: 'discharge.curve',
      subject: { curveId, number },
    });
    return { curveId, number };
  });
}

function requireCurve(field: string, of: readonly Support[], lookedAgain: boolean): void {
  of.forEach(({ level, k }, i) => {
    const before = of[i - 1];
    if (before && level <= before.level)
      throw badField(
        'out-of-order',
        `${field}.${i}.level`,
        level,
        `The support at ${formatValue(level, 3)} m does not lie above the one before (${formatValue(before.level, 3)} m).`,
        'Put the supports in their order, each at a level of its own.',
      );
    if ((k < usualK[0] || k > usualK[1]) && !lookedAgain)
      throw badField(
        'look-again',
        `${field}.${i}.k`,
        k,
        `A k of ${formatValue(k, 3)} at ${formatValue(level, 3)} m is not within ${usualK[0]}–${usualK[1]}.`,
        'Look at gauging, section and velocity; say that it stands, if it does.',
      );
  });
}

async function newestNumber(ctx: Context, tx: Transaction, stationId: string): Promise<number> {
  const last = await row(ctx.db.kCurve, {
    where: { stationId },
    order: [['number', 'DESC']],
    transaction: tx,
  });
  return last?.number ?? 0;
}
