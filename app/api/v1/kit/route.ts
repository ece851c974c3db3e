import { read, write } from '@/app/api/respond';
import { instrument } from '@/contract/requests';
import { addInstrument, kit } from '@/server/kit/kit';

export const GET = read('view', (ctx) => kit(ctx.db, ctx.now()));
export const POST = write('kit', instrument, (ctx, body) => addInstrument(ctx, body), 201);
