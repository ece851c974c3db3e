import { driverFor } from '@/devices/driverFor';
import type { Logger } from '@/devices/logger';
import type { Context } from '../context';
import { loggerOf, type StationGraph } from '../station/stationGraph';
import { resolveDevice } from './line';

/** A station's logger by its driver, at its address; refuses an address that may not be dialled. */
export const loggerLink = async (
  ctx: Context,
  graph: Pick<StationGraph, 'station' | 'logger' | 'loggerProfile'>,
): Promise<Logger> => driverFor(graph.loggerProfile).at(await resolveDevice(ctx, loggerOf(graph).address));
