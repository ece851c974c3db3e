import type { FieldWriteKind } from '@/contract/fieldWrites';
import type { Receiver } from './receive';
import { POST as note } from './v1/field-book/route';
import { POST as arrive } from './v1/stations/[stationId]/arrivals/route';
import { POST as benchEnd } from './v1/stations/[stationId]/bench/[sessionId]/end/route';
import { POST as benchReading } from './v1/stations/[stationId]/bench/[sessionId]/readings/route';
import { POST as benchBegin } from './v1/stations/[stationId]/bench/route';
import { POST as checklistAdd } from './v1/stations/[stationId]/checklist/route';
import { POST as checklistTick } from './v1/stations/[stationId]/checklist/ticks/route';
import { POST as checkObservation } from './v1/stations/[stationId]/checks/[checkId]/readings/[readingId]/observations/route';
import { POST as checkReading } from './v1/stations/[stationId]/checks/[checkId]/readings/route';
import { POST as launchStamp } from './v1/stations/[stationId]/deployments/[deploymentId]/stamps/route';
import { POST as leave } from './v1/stations/[stationId]/departures/route';
import {
  DELETE as offLineEnd,
  POST as offLineBegin,
} from './v1/stations/[stationId]/installations/[installationId]/off-line/route';
import { POST as photograph } from './v1/stations/[stationId]/photographs/route';
import { POST as levelReading } from './v1/stations/[stationId]/water/readings/route';
import { POST as levelSurvey } from './v1/stations/[stationId]/water/surveys/route';
import { POST as sensorConnected } from './v1/stations/[stationId]/plan/install/route';

/** The route of each field write: the compiler asks for the one that is missing. */
export const receivers: Readonly<Record<FieldWriteKind, Receiver>> = {
  note,
  photograph,
  offLineBegin,
  offLineEnd,
  sensorConnected,
  launchStamp,
  checkReading,
  checkObservation,
  arrive,
  leave,
  checklistAdd,
  checklistTick,
  benchBegin,
  benchReading,
  benchEnd,
  levelReading,
  levelSurvey,
};
