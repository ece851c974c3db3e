import { read } from '@/app/api/respond';
import { alarmsView } from '@/server/watch/alarms';

export const GET = read('view', (ctx) => alarmsView(ctx.db, ctx.now()));
