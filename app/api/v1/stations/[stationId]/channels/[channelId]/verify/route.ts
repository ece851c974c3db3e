import { read } from '@/app/api/respond';
import { channelVerify } from '@/server/verify/view';

export const GET = read('view', (ctx, _request, p) => channelVerify(ctx.db, p.stationId!, p.channelId!));
