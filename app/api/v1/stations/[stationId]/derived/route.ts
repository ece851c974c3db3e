import { write } from '@/app/api/respond';
import { addDerived as schema } from '@/contract/verifyRequests';
import { addDerived } from '@/server/record/addDerived';

export const POST = write('mark', schema, (ctx, body, p) => addDerived(ctx, p.stationId!, body), 201);
