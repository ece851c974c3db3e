import { sessionToken, write } from '@/app/api/respond';
import { changePassword as schema } from '@/contract/accountRequests';
import { changeOwnPassword } from '@/server/account/people';

export const POST = write('view', schema, (ctx, body, _p, request) =>
  changeOwnPassword(ctx, sessionToken(request), body),
);
