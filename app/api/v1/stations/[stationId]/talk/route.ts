import { write } from '@/app/api/respond';
import { talk as schema } from '@/contract/requests';
import { talk } from '@/server/device/talk';

export const POST = write('measure', schema, (ctx, body, { stationId }) => talk(ctx, stationId!, body));
