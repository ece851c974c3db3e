import { write } from '@/app/api/respond';
import { signPage as schema } from '@/contract/fieldBookPage';
import { signBookPage } from '@/server/book/page';

export const POST = write('note', schema, (ctx, body, { stationId, visitId }) =>
  signBookPage(ctx, stationId!, visitId!, body),
);
