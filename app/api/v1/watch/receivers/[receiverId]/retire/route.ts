import { write } from '@/app/api/respond';
import { nothing as schema } from '@/contract/requests';
import { retireReceiver } from '@/server/watch/receivers';

export const POST = write('administer', schema, (ctx, _body, { receiverId }) =>
  retireReceiver(ctx, receiverId!),
);
