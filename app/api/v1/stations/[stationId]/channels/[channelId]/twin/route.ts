import { write } from '@/app/api/respond';
import { setTwin as schema } from '@/contract/verifyRequests';
import { setTwin } from '@/server/verify/twin';

export const PUT = write('mark', schema, (ctx, body, p) => setTwin(ctx, p.stationId!, p.channelId!, body));
