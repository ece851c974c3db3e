import type { CorrectSpan } from '@/contract/verifyRequests';
import type { CorrectionProposalView } from '@/contract/recordViews';
import { formatDifference } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { query, type Database } from '@/db/database';
import type { LayerParameters } from '@/db/stored/layer';
import type { Context } from '../context';
import { badField, inTheWay } from '../problem';
import { toleranceOf, type ChannelNode } from '../station/stationGraph';
import { activeLayers, layLayer } from './layers';
import { recordSpan, spanText } from './span';

interface CheckPoint {
  at: Date;
  /** After it was cleaned, where it was. */
  asFound: number;
  /** What cleaning changed; 0 for none. */
  fouling: number;
  asLeft: number | null;
  limit: number;
}

/**
 * Corrections between each two neighbouring checks of one installation: pro-rated from what the
 * first left to what the second found, or the second's difference over the whole span. Inside the
 * tolerance nothing is proposed: it would only chase noise.
 */
export async function correctionProposals(
  db: Database,
  stationId: string,
  channel: ChannelNode,
): Promise<CorrectionProposalView[]> {
  const checks = await query<CheckPoint & { installationId: string }>(
    db,
    `select opened_at as at, installation_id as "installationId", (result->>'asFound')::float8 as "asFound", coalesce((result->>'fouling')::float8, 0) as fouling,
            (result->>'asLeft')::float8 as "asLeft", (result->>'limit')::float8 as "limit"
       from reference_check
      where station_id = :stationId and channel_id = :channelId and closed_at is not null
        and outcome in ('agree', 'adjusted', 'left-outside', 'does-not-converge') and result->>'asFound' is not null
      order by opened_at`,
    { stationId, channelId: channel.row.id },
  );
  const q = quantityOf(channel.row.quantity);
  const d = q.decimals + 1;
  const proposals: CorrectionProposalView[] = [];
  for (let i = 1; i < checks.length; i++) {
    const [a, b] = [checks[i - 1]!, checks[i]!];
    if (a.installationId !== b.installationId) continue;
    const left = a.asLeft ?? a.asFound;
    // Until the second check it logged with its dirt on: drift and fouling together.
    const found = b.asFound - b.fouling;
    const tolerance = toleranceOf(channel);
    const from = a.at.toISOString();
    const until = b.at.toISOString();
    proposals.push({
      from,
      until,
      worthwhile: Math.abs(found) > tolerance,
      linear: {
        fromOffset: -left,
        untilOffset: -found,
        sum: `${formatDifference(-left, d)} at the first check, running to ${formatDifference(-found, d)} ${q.unit} at the second`,
      },
      step: {
        offset: -found,
        sum: `−(${formatDifference(found, d)}) = ${formatDifference(-found, d)} ${q.unit} throughout`,
      },
      leftAtFirst: left,
      foundAtSecond: found,
    });
  }
  return proposals.reverse();
}

/** A larger share of a value is no correction of it. Our own choice. */
const mostPercent = 50;

/** What a correction of a shape is kept as. */
const given = (shape: CorrectSpan['shape'], first: number, last: number): LayerParameters =>
  ({
    step: { offset: first },
    linear: { fromOffset: first, untilOffset: last },
    percentage: { percent: first },
  })[shape];

/** Lays a correction over a span of the record; the device is left alone and so are the logged values. */
export const correctSpan = (ctx: Context, stationId: string, channelId: string, request: CorrectSpan) =>
  layLayer(ctx, { stationId, channelId, layerId: request.layerId }, async (tx) => {
    const { channel, from, until, n, text } = await recordSpan(ctx.db, stationId, channelId, request, tx);
    const q = quantityOf(channel.row.quantity);
    const { shape, fromOffset } = request;
    const untilOffset = shape === 'linear' ? request.untilOffset : fromOffset;
    if (q.aggregate !== 'mean')
      throw badField(
        'cannot-correct',
        'shape',
        shape,
        `${q.name} cannot be corrected by adding an offset.`,
        'Mark the span instead.',
      );
    if (fromOffset === 0 && untilOffset === 0)
      throw badField(
        'no-correction',
        'fromOffset',
        0,
        'A correction of 0 changes nothing.',
        'Enter what is to be added.',
      );
    if (shape === 'percentage' && Math.abs(fromOffset) > mostPercent)
      throw badField(
        'percentage-too-large',
        'fromOffset',
        fromOffset,
        `${formatDifference(fromOffset, 1)} % is more than ±${mostPercent} %: a sensor that is so far off logged nothing that can be put right.`,
        'Check the number, or mark the span as bad instead.',
      );
    // One difference is taken out once.
    const other = (await activeLayers(ctx.db, stationId, channelId, from + 1, until, tx)).find(
      (l) => l.kind === 'correction' && l.parameters.shape !== undefined,
    );
    if (other)
      throw inTheWay(
        'corrected-already',
        `${spanText(other.fromAt.getTime(), other.untilAt!.getTime())} is corrected already (${other.reason}).`,
        'Take that correction back first, or choose a span beside it.',
      );
    const d = q.decimals + 1;
    return {
      kind: 'correction',
      from,
      until,
      parameters: { shape, n, ...given(shape, fromOffset, untilOffset) },
      reason: request.reason,
      text: `Corrected ${n} values of ${channel.name} in the record, ${text}: ${request.reason}`,
      sum:
        shape === 'percentage'
          ? `logged ${formatDifference(fromOffset, 2)} % of itself`
          : shape === 'step'
            ? `logged ${formatDifference(fromOffset, d)} ${q.unit}`
            : `logged ${formatDifference(fromOffset, d)} … ${formatDifference(untilOffset, d)} ${q.unit}, pro-rated by time`,
    };
  });
