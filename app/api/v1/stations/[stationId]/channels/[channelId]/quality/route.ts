import { write } from '@/app/api/respond';
import { beginWork as schema } from '@/contract/requests';
import { runQuality } from '@/server/verify/quality';

export const POST = write(
  'mark',
  schema,
  async (ctx, body, p) => (await runQuality(ctx, p.stationId!, p.channelId!, body.operationId)).operation,
  202,
);
