import { read, sessionToken, write } from '@/app/api/respond';
import { endSessions as schema } from '@/contract/accountRequests';
import { endOwnSessions, ownSessions } from '@/server/account/people';

export const GET = read('view', (ctx, request) => ownSessions(ctx, sessionToken(request)));
export const DELETE = write('view', schema, (ctx, body, _p, request) =>
  endOwnSessions(ctx, sessionToken(request), body.sessionId ?? null),
);
