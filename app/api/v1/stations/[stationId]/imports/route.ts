import { read, write } from '@/app/api/respond';
import { declareImport as schema } from '@/contract/importRequests';
import { declareImport } from '@/server/import/declare';
import { importStart } from '@/server/import/view';

export const GET = read('view', (ctx, _request, { stationId }) => importStart(ctx.db, stationId!));
export const POST = write(
  'import',
  schema,
  (ctx, body, { stationId }) => declareImport(ctx, stationId!, body),
  201,
);
