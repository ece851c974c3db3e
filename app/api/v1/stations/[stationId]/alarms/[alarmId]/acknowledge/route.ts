import { write } from '@/app/api/respond';
import { acknowledgeAlarm as schema } from '@/contract/watch';
import { acknowledgeAlarm } from '@/server/watch/alarms';

export const POST = write('note', schema, (ctx, body, { stationId, alarmId }) =>
  acknowledgeAlarm(ctx, stationId!, alarmId!, body),
);
