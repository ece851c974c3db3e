import { upload } from '@/app/api/respond';
import { runImport } from '@/server/import/run';

export const PUT = upload('import', (ctx, body, { stationId, importId }) =>
  runImport(ctx, stationId!, importId!, body),
);
