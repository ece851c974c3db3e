import { write } from '@/app/api/respond';
import { sayLabel as schema } from '@/contract/requests';
import { sayLabel } from '@/server/device/loggerLabel';

export const POST = write('measure', schema, (ctx, body, { stationId }) => sayLabel(ctx, stationId!, body));
