import { write } from '@/app/api/respond';
import { withdrawImport as schema } from '@/contract/importRequests';
import { withdrawImport } from '@/server/import/withdraw';

export const POST = write(
  'import',
  schema,
  async (ctx, body, p) => (await withdrawImport(ctx, p.stationId!, p.importId!, body)).operation,
  202,
);
