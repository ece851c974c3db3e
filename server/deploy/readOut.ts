import { readOutName } from '@/core/deploy/launch';
import { row, type Database } from '@/db/database';
import { loggerText } from '../clock/stamp';
import { inTheWay, notFound } from '../problem';
import { traceFile, type TraceFile } from '../record/traceFile';
import { loadStation, loggerOf } from '../station/stationGraph';
import { storing } from './deployment';
import { recordOfDeployment } from './notData';

/** What was read out of one launch as a file named after its station: all channels, logged and corrected, with marks. */
export async function readOutFile(db: Database, stationId: string, deploymentId: string): Promise<TraceFile> {
  const graph = await loadStation(db, stationId);
  const deployment = await row(db.deployment, { where: { stationId, id: deploymentId } });
  if (!deployment) throw notFound('launch', deploymentId);
  const record = await recordOfDeployment(db, graph, deployment);
  if (!record)
    throw inTheWay(
      'not-read-out-yet',
      'Nothing of this launch was read out yet.',
      'Read the logger out first.',
    );
  const file = await traceFile(
    db,
    storing(graph).map((c) => ({ stationId, channelId: c.row.id })),
    { from: record.from.getTime(), until: record.until.getTime() + 1, pixels: 1 },
  );
  const { serial, utcOffsetMinutes } = loggerOf(graph);
  return {
    ...file,
    name: readOutName(graph.station.code, loggerText(record.from, utcOffsetMinutes), serial),
  };
}
