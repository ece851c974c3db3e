import { write } from '@/app/api/respond';
import { setCollectSchedule as schema } from '@/contract/watch';
import { setCollectSchedule } from '@/server/watch/schedule';

export const POST = write('measure', schema, (ctx, body, { stationId }) =>
  setCollectSchedule(ctx, stationId!, body),
);
