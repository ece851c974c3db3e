import { write } from '@/app/api/respond';
import { installPlanned as schema } from '@/contract/planRequests';
import { installPlanned } from '@/server/plan/installPlanned';

export const POST = write(
  'measure',
  schema,
  (ctx, body, { stationId }) => installPlanned(ctx, stationId!, body),
  201,
);
