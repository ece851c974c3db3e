import { read, write } from '@/app/api/respond';
import { addMeter as schema } from '@/contract/bench';
import { addMeter, meters } from '@/server/kit/meters';

export const GET = read('view', (ctx) => meters(ctx.db));
export const POST = write('kit', schema, (ctx, body) => addMeter(ctx, body), 201);
