import type { DeclareImport } from '@/contract/importRequests';
import { refusePlan, type ImportPlan } from '@/core/import/plan';
import { inSentence } from '@/core/quantity/quantity';
import { row } from '@/db/database';
import type { Context } from '../context';
import { badField, inTheWay } from '../problem';
import { loadStation, type StationGraph } from '../station/stationGraph';

/** The largest record file that is taken, bytes: IMPORT_LIMIT_MB, 500 MB unless set. */
export const importLimit = (): number => Number(process.env.IMPORT_LIMIT_MB ?? 500) * 1_000_000;

/** Says what a file is and where its columns go, before a byte of it is sent. Nothing is stored but the plan. */
export async function declareImport(
  ctx: Context,
  stationId: string,
  request: DeclareImport,
): Promise<{ importId: string }> {
  const graph = await loadStation(ctx.db, stationId);
  const limit = importLimit();
  if (request.bytes === 0)
    throw badField(
      'empty-file',
      'file',
      request.fileName,
      `${request.fileName} is empty.`,
      'Export it again.',
    );
  if (request.bytes > limit)
    throw badField(
      'file-too-large',
      'file',
      request.bytes,
      `${request.fileName} has ${Math.ceil(request.bytes / 1e6)} MB, and ${Math.round(limit / 1e6)} MB are taken at most.`,
      'Split it, or have the administrator raise IMPORT_LIMIT_MB.',
    );
  requirePlan(request.plan);
  requireChannels(graph, request.plan);
  const known = await row(ctx.db.recordImport, { where: { stationId, id: request.importId } });
  if (known) {
    if (known.state !== 'waiting') throw importEnded(known.state);
    return { importId: known.id };
  }
  await ctx.db.recordImport.create({
    stationId,
    id: request.importId,
    personId: ctx.person.id,
    fileName: request.fileName,
    bytes: request.bytes,
    signature: request.signature,
    plan: request.plan,
    confirmed: request.confirmed ?? false,
    declaredAt: ctx.now(),
    state: 'waiting',
    message: '',
  });
  return { importId: request.importId };
}

export const importEnded = (state: string) =>
  inTheWay(
    'import-ended',
    `This import is ${state === 'complete' ? 'complete' : 'under way or over'} already.`,
    'Look at its result; to import the file again, begin anew.',
  );

/** Refuses a plan that cannot be. */
export function requirePlan(plan: ImportPlan): void {
  const refused = refusePlan(plan);
  if (refused) throw badField('plan-refused', refused.field, refused.value, refused.detail, refused.remedy);
}

/** Channels of one station at the most; a form with more of them is no form. Our own choice. */
const mostChannels = 400;

function requireChannels(graph: StationGraph, plan: ImportPlan): void {
  const free = mostChannels - graph.channels.length;
  const fresh = plan.columns.filter((c) => c.channel.kind === 'new').length;
  if (fresh > free)
    throw badField(
      'no-channel-left',
      'columns',
      fresh,
      `${fresh} new channels are too many: ${graph.channels.length} of ${mostChannels} are there already.`,
      'Import fewer columns, or use channels that are there.',
    );
  for (const { column, channel } of plan.columns) {
    if (channel.kind !== 'existing') continue;
    const found = graph.channels.find((c) => c.row.id === channel.id);
    if (!found)
      throw badField(
        'unknown-channel',
        'columns',
        column + 1,
        `The channel chosen for column ${column + 1} is not at ${graph.station.code}.`,
        'Choose one of this station.',
      );
    if (plan.typed && found.row.source !== 'manual')
      throw badField(
        'not-typed',
        'channel',
        found.name,
        `${found.name} comes from ${found.row.source === 'logger' ? 'its logger' : 'elsewhere'}; what is typed goes into a channel of its own.`,
        'Choose a channel that is typed, or make a new one: the two can be named twins.',
      );
    if (found.row.source === 'derived')
      throw badField(
        'derived-channel',
        'columns',
        column + 1,
        `${found.name} is reckoned from other channels; column ${column + 1} cannot go into it.`,
        'Choose a channel that is logged, or make a new one.',
      );
    if (found.row.quantity !== channel.quantity)
      throw badField(
        'wrong-quantity',
        'columns',
        column + 1,
        `${found.name} carries ${inSentence(found.row.quantity)}, column ${column + 1} is said to be ${inSentence(channel.quantity)}.`,
        'Choose a channel of the same quantity.',
      );
  }
}
