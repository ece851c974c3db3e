import { read, write } from '@/app/api/respond';
import { addStandard as schema } from '@/contract/standards';
import { addStandard, standards } from '@/server/kit/standards';

export const GET = read('view', (ctx) => standards(ctx.db, ctx.now()));
export const POST = write('kit', schema, (ctx, body) => addStandard(ctx, body), 201);
