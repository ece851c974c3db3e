import { write } from '@/app/api/respond';
import { foundOffRequest } from '@/contract/foundOff';
import { keepFinding } from '@/server/kit/foundOff';

export const POST = write(
  'kit',
  foundOffRequest,
  (ctx, body, { instrumentId }) => keepFinding(ctx, instrumentId!, body),
  201,
);
