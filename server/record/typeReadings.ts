import type { TypeReadings } from '@/contract/importRequests';
import { judgePlausible } from '@/core/check/plausible';
import type { ImportPlan } from '@/core/import/plan';
import { rowReader } from '@/core/import/rowReader';
import { formatValue } from '@/core/quantity/format';
import { inSentence, quantityOf } from '@/core/quantity/quantity';
import { valueToBase } from '@/core/quantity/unit';
import { readSeries } from '@/db/bulk';
import { row } from '@/db/database';
import type { Context } from '../context';
import { declareImport, requirePlan } from '../import/declare';
import { runImport } from '../import/run';
import { storedEnvelope } from '../import/target';
import { badField, instantOf, inTheWay } from '../problem';
import { channelOf, loadStation, type StationGraph } from '../station/stationGraph';

export interface Typed {
  importId: string;
  stored: number;
  /** How many of them stood in the record already. */
  known: number;
}

/**
 * Takes readings a person read off. They go into the record as a file of their own would: compared, never
 * over another, tested, and withdrawn as a whole if they turn out to be a slip.
 */
export async function typeReadings(ctx: Context, stationId: string, request: TypeReadings): Promise<Typed> {
  const { readingsId: importId } = request;
  const graph = await loadStation(ctx.db, stationId);
  const done = await row(ctx.db.recordImport, { where: { stationId, id: importId, state: 'complete' } });
  if (done) return { importId, stored: done.stored ?? 0, known: done.known ?? 0 };
  const readings = request.readings.map((r) => ({ ...r, ms: instantOf('at', r.at).getTime() }));
  const plan = planOf(graph, request);
  requirePlan(plan);
  const text = `${readings.map((r) => `${r.ms},${r.value}`).join('\n')}\n`;
  rowReader(plan, ctx.now().getTime(), {
    reading: () => {},
    refused: (line, column, _text, why) => {
      const { at, value } = request.readings[line - 1]!;
      const field = column === null ? 'at' : 'value';
      throw badField(
        'reading-refused',
        `readings.${line - 1}.${field}`,
        field === 'at' ? at : value,
        `The reading of ${at}, ${value} ${request.unit}, was not taken: ${why}.`,
        'Correct its time, value or unit.',
      );
    },
  }).rows(text, 1);
  await requireSound(ctx, graph, request, readings);
  const bytes = new TextEncoder().encode(text);
  const [first] = [...readings].sort((a, b) => a.ms - b.ms);
  await declareImport(ctx, stationId, {
    importId,
    fileName: `${readings.length === 1 ? `${first!.value} ${request.unit}` : `${readings.length} readings`} of ${new Date(first!.ms).toISOString().slice(0, 16).replace('T', ' ')} UTC`,
    bytes: bytes.length,
    signature: 'typed',
    plan,
    confirmed: request.confirmed,
  });
  const { stored, known, conflicting } = await runImport(
    ctx,
    stationId,
    importId,
    new Blob([bytes]).stream(),
  );
  if (conflicting > 0) throw stampTaken('another value');
  return { importId, stored, known };
}

/** What is typed, as the file it is stored like: an instant and a value in each row. */
function planOf(graph: StationGraph, { channel, unit }: TypeReadings): ImportPlan {
  return {
    encoding: 'utf-8',
    dialect: {
      delimiter: ',',
      newline: '\n',
      decimal: '.',
      width: 2,
      headerRows: 0,
      nameRow: null,
      unitRow: null,
      timeColumns: [0],
    },
    stampOrder: 'epoch-ms',
    zone: { kind: 'fixed', minutes: 0 },
    missing: [],
    columns: [
      {
        column: 1,
        unit,
        channel:
          channel.kind === 'new'
            ? channel
            : { ...channel, quantity: channelOf(graph, channel.id).row.quantity },
      },
    ],
    oldStamps: true,
    typed: true,
  };
}

/** From so many stored values on, a typed one is compared with them. Our own choice. */
const fewestToCompare = 3;

/** Slips, said before anything is stored: two values at one stamp, a value that cannot be. */
async function requireSound(
  ctx: Context,
  graph: StationGraph,
  { channel, unit, confirmed }: TypeReadings,
  readings: readonly { at: string; ms: number; value: number }[],
): Promise<void> {
  const twice = readings.find((r, i) => readings.findIndex((o) => o.ms === r.ms) !== i);
  if (twice)
    throw badField(
      'typed-twice',
      'readings',
      twice.at,
      `${twice.at} was typed twice.`,
      'Leave one of them out.',
    );
  const existing = channel.kind === 'existing' ? channelOf(graph, channel.id).row : null;
  const q = quantityOf(channel.kind === 'new' ? channel.quantity : existing!.quantity);
  const stored = existing && (await storedEnvelope(ctx.db, graph.station.key, existing.key));
  const spread = stored && stored.n >= fewestToCompare ? stored : null;
  for (const { value } of confirmed ? [] : readings) {
    const judged = judgePlausible({
      quantity: q.code,
      value,
      unit,
      sensor: spread && (spread.min + spread.max) / 2,
      far: spread ? 1.5 * Math.max(spread.max - spread.min, q.tolerance) : q.tolerance,
    });
    if (judged.kind === 'plausible') continue;
    const shown = (base: number) => formatValue(base, q.decimals);
    const beyond = judged.kind === 'outside-range' ? q.range : [spread!.min, spread!.max];
    const meant = judged.kind === 'not-a-number' ? null : judged.meant;
    throw badField(
      judged.kind,
      'value',
      value,
      `${value} ${unit} is ${judged.kind === 'far-off' ? 'far from what stands there' : `outside what ${inSentence(q.code)} can be`}, ${shown(beyond[0]!)} to ${shown(beyond[1]!)} ${q.unit}.`,
      `${meant ? `Did you mean ${meant.value} ${meant.unit}? ` : ''}Look for a slipped decimal point or another unit. If it is right, confirm and send again.`,
      { confirm: true },
    );
  }
  if (!existing) return;
  await ctx.db.transact(async (tx) => {
    for (const { ms, value } of readings) {
      const [there] = (await readSeries(tx, graph.station.key, existing.key, ms, ms)).values;
      if (there !== undefined && Math.abs(there - valueToBase(value, unit, q.unit)) > 1e-9)
        throw stampTaken(`${formatValue(there, q.decimals)} ${q.unit}`);
    }
  });
}

const stampTaken = (what: string) =>
  inTheWay(
    'stamp-taken',
    `At this time the channel holds ${what} already.`,
    'Correct the time; or withdraw what was typed first, under Import, and type it again.',
  );
