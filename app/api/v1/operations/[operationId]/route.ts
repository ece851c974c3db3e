import { read } from '@/app/api/respond';
import { operationView } from '@/server/process/operation';

export const GET = read('view', (ctx, _request, { operationId }) => operationView(ctx.db, operationId!));
