import { read } from '@/app/api/respond';
import { round } from '@/server/round';

export const GET = read('view', (ctx) => round(ctx.db, ctx.now()));
