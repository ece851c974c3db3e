import type { BeginLiveTest } from '@/contract/requests';
import { judgeLiveTest, tiltFailure, type LiveTestResult, type Try } from '@/core/check/liveTest';
import { faultAdvice } from '@/core/bus/faultAdvice';
import { decimalsOf, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { askUnit, busLineOf } from '../bus/line';
import { newId } from '../id';
import { inTheWay, Problem } from '../problem';
import { startOperation, type Progress } from '../process/operation';
import { atStation } from '../station/atStation';
import {
  channelOf,
  loadStation,
  loggerNumber,
  type ChannelNode,
  type InstallationNode,
  type StationGraph,
} from '../station/stationGraph';
import { withLease, type Lease } from './lease';
import { resolveDevice } from './line';
import { askSensor, wayTo } from './talk';

/** Between two tries, ms. */
const apart = 1000;

/**
 * Asks the sensor of one channel several times, one talker at a time, and says how often it gave a value it can have,
 * and why not otherwise. Kept in the field book; it changes nothing.
 */
export async function testChannel(
  ctx: Context,
  stationId: string,
  channelId: string,
  { operationId, tries }: BeginLiveTest,
) {
  const graph = await loadStation(ctx.db, stationId);
  const channel = channelOf(graph, channelId);
  loggerNumber(channel);
  const { installation } = channel;
  if (!installation)
    throw inTheWay('no-sensor', `Nothing feeds ${channel.name}.`, 'Install a sensor there first.');
  await resolveDevice(ctx, wayTo(graph, installation).address);
  return startOperation(ctx, { id: operationId, stationId, kind: 'live-test' }, (progress) =>
    tryEach(ctx, graph, channel, tries, progress),
  );
}

async function tryEach(
  ctx: Context,
  graph: StationGraph,
  channel: ChannelNode,
  wanted: number,
  progress: Progress,
) {
  const q = quantityOf(channel.row.quantity);
  const { output } = channel;
  const shown = { decimals: output ? decimalsOf(output.resolution) : q.decimals, unit: q.unit };
  const tries: Try[] = [];
  const judged = () => judgeLiveTest(tries, output?.range ?? null, shown);
  for (let n = 1; n <= wanted; n++) {
    await progress.report((n - 1) / wanted, `Asking, ${n} of ${wanted}`, judged());
    if (n > 1) await new Promise((r) => setTimeout(r, apart));
    tries.push(await once(ctx, graph, channel));
  }
  const result = judged();
  const says = liveTestText(result, shown);
  await atStation(ctx, graph.station.id, (tx) =>
    recordAct(ctx, tx, {
      stationId: graph.station.id,
      channelId: channel.row.id,
      occurredAt: ctx.now(),
      kind: 'talk',
      text: `Tested ${channel.name} live: ${says}`,
      action: 'channel.live-test',
      subject: { channelId: channel.row.id, ...result },
    }),
  );
  return { message: says, result };
}

async function once(ctx: Context, graph: StationGraph, channel: ChannelNode): Promise<Try> {
  const installation = channel.installation!;
  try {
    const { outcome, tilted } = await withLease(
      ctx.db,
      wayTo(graph, installation).line,
      newId(),
      async (lease) => {
        const asked = await askSensor(ctx, graph, installation, lease);
        return {
          outcome: asked,
          tilted: asked.fault ? null : await tiltNow(ctx, graph, installation, lease),
        };
      },
    );
    const value = outcome.decoded.find((d) => d.output === channel.output?.key)?.value ?? null;
    // What a tilted sensor measures is no reading of what is below it.
    if (value !== null) return tilted === null ? { value, why: null } : { value: null, why: tilted };
    return { value: null, why: outcome.fault ? faultAdvice(outcome.fault).title : 'it gives no value' };
  } catch (error) {
    if (!(error instanceof Problem)) throw error;
    return { value: null, why: error.message };
  }
}

/** Why a sensor that says how it hangs measures nothing that counts; null where it hangs right, or says nothing of it. */
async function tiltNow(
  ctx: Context,
  graph: StationGraph,
  installation: InstallationNode,
  lease: Lease,
): Promise<string | null> {
  const { port, row } = installation;
  const { ownTilt, placing } = installation.profile;
  if (!ownTilt || placing.tilt === null || !wayTo(graph, installation).own) return null;
  const line = await busLineOf(ctx, graph, port.id);
  const { fn, address, perDegree } = ownTilt;
  const answer = await askUnit(line, lease, row.busId!, { fn, address, count: 1 });
  return answer.ok ? tiltFailure(answer.registers[0]! / perDegree, placing.tilt) : null;
}

function liveTestText(
  { tries, good, failures, low, high, last }: LiveTestResult,
  { decimals, unit }: { decimals: number; unit: string },
): string {
  const text = (v: number | null) => formatValue(v, decimals);
  return [
    `${good} of ${tries} tries good`,
    ...(good > 0 ? [`last ${text(last)} ${unit}, between ${text(low)} and ${text(high)}`] : []),
    ...failures.map((f) => `${f.n} × ${f.why}`),
  ].join('; ');
}
