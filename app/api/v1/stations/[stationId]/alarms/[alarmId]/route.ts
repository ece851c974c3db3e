import { read } from '@/app/api/respond';
import { alarmEvents } from '@/server/watch/alarms';

export const GET = read('view', (ctx, _request, { stationId, alarmId }) =>
  alarmEvents(ctx.db, stationId!, alarmId!),
);
