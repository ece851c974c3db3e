import { read } from '@/app/api/respond';
import { consoleView } from '@/server/bus/consoleView';

export const GET = read('view', (ctx, _, { stationId }) => consoleView(ctx.db, stationId!, ctx.now()));
