import { write } from '@/app/api/respond';
import { changeLines as schema } from '@/contract/planRequests';
import { changeLines } from '@/server/administer/changeLines';

export const PUT = write('set-up', schema, (ctx, body, { stationId }) => changeLines(ctx, stationId!, body));
