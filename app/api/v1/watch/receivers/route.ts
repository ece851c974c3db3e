import { read, secretly } from '@/app/api/respond';
import { addReceiver as schema } from '@/contract/watch';
import { addReceiver, receivers } from '@/server/watch/receivers';

export const GET = read('measure', (ctx) => receivers(ctx.db));
export const POST = secretly('administer', schema, (ctx, body) => addReceiver(ctx, body), 201);
