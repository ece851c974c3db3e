import { read } from '@/app/api/respond';
import { methods } from '@/server/kit/methods';

export const GET = read('view', (ctx) => methods(ctx.db, ctx.now()));
