import { write } from '@/app/api/respond';
import { retireStandard as schema } from '@/contract/standards';
import { retireStandard } from '@/server/kit/standards';

export const POST = write('kit', schema, (ctx, body, { standardId }) =>
  retireStandard(ctx, standardId!, body),
);
