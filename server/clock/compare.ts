import { formatDifference } from '@/core/quantity/format';
import { clockDifference, clockTolerance } from '@/core/series/clock';
import type { ClockReading } from '@/db/stored/action';
import { LoggerFault } from '@/devices/logger';
import type { Context } from '../context';
import { newId } from '../id';
import { loggerLink } from '../device/loggerLink';
import { inTheWay } from '../problem';
import { loggerOf, type StationGraph } from '../station/stationGraph';
import { loggerInstant } from './stamp';

/** Asks the logger for its clock and reckons the difference; nothing is stored. Throws LoggerFault, or a Problem for a clock that makes no sense. */
export async function readClock(ctx: Context, graph: StationGraph): Promise<ClockReading> {
  const logger = loggerOf(graph);
  const link = await loggerLink(ctx, graph);
  const before = Date.now();
  const status = await link.status();
  const took = Date.now() - before;
  // Our own time is the context's: the exchange lies before it.
  const now = ctx.now().getTime();
  const shown = loggerInstant(status.clock, logger.utcOffsetMinutes);
  if (!Number.isFinite(shown))
    throw inTheWay(
      'clock-unreadable',
      `The logger's clock says "${status.clock}".`,
      'Set its clock, then collect again. Nothing was stored.',
    );
  const exchange = { asked: now - took, logger: shown, answered: now };
  const { difference, uncertainty } = clockDifference(exchange, 1);
  const time = (ms: number) => new Date(ms).toISOString().slice(11, 19);
  return {
    difference,
    uncertainty,
    run: status.clockRun,
    loggerTime: shown,
    at: now,
    off: Math.abs(difference) - uncertainty > clockTolerance,
    sum: `logger ${time(shown)} − UTC ${time((exchange.asked + exchange.answered) / 2)} = ${formatDifference(difference, 1)} s (±${uncertainty.toFixed(1)} s)`,
  };
}

/** Measures the logger's clock against ours and keeps the comparison. */
export async function compareClock(ctx: Context, graph: StationGraph): Promise<ClockReading> {
  const reading = await readClock(ctx, graph);
  await ctx.db.clockComparison.create({
    stationId: graph.station.id,
    id: newId(),
    loggerId: loggerOf(graph).id,
    clockRun: reading.run,
    comparedAt: new Date(reading.at),
    loggerTime: new Date(reading.loggerTime),
    difference: reading.difference,
    uncertainty: reading.uncertainty,
  });
  return reading;
}

/** The same in passing, at a contact made for something else: a clock that cannot be read now stands in nobody's way. */
export async function noteClock(ctx: Context, graph: StationGraph): Promise<void> {
  try {
    await compareClock(ctx, graph);
  } catch (error) {
    if (!(error instanceof LoggerFault) && !('parts' in (error as object))) throw error;
  }
}
