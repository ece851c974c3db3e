import { read } from '@/app/api/respond';
import { boardView } from '@/server/watch/board';

export const GET = read('view', (ctx) => boardView(ctx.db, ctx.now()));
