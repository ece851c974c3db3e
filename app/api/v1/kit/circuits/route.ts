import { read, write } from '@/app/api/respond';
import { saveCircuit as schema } from '@/contract/bench';
import { circuits, saveCircuit } from '@/server/kit/circuits';

export const GET = read('view', (ctx) => circuits(ctx.db));
export const POST = write('kit', schema, (ctx, body) => saveCircuit(ctx, body), 201);
