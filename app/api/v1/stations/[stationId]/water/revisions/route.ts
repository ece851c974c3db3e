import { write } from '@/app/api/respond';
import { reviseLevels as schema } from '@/contract/water';
import { reviseLevels } from '@/server/water/revise';

export const POST = write(
  'mark',
  schema,
  (ctx, body, { stationId }) => reviseLevels(ctx, stationId!, body),
  201,
);
