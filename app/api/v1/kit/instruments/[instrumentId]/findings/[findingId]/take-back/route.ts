import { write } from '@/app/api/respond';
import { takeBackFinding } from '@/contract/foundOff';
import { takeFindingBack } from '@/server/kit/foundOff';

export const POST = write('kit', takeBackFinding, (ctx, body, { instrumentId, findingId }) =>
  takeFindingBack(ctx, instrumentId!, findingId!, body),
);
