import { read, write } from '@/app/api/respond';
import { bringInList as schema } from '@/contract/handheld';
import { bringIn, handheldReadings } from '@/server/handheld/handheldReadings';

export const GET = read('view', (ctx) => handheldReadings(ctx.db));
export const POST = write('measure', schema, (ctx, body) => bringIn(ctx, body), 201, 200_000);
