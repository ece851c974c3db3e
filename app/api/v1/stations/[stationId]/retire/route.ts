import { write } from '@/app/api/respond';
import { retireStation as schema } from '@/contract/planRequests';
import { retireStation } from '@/server/administer/changeStation';

export const POST = write('set-up', schema, (ctx, body, { stationId }) =>
  retireStation(ctx, stationId!, body),
);
