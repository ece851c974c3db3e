import { read, secretly } from '@/app/api/respond';
import { invitePerson as schema } from '@/contract/accountRequests';
import { invitePerson, people } from '@/server/account/people';

export const GET = read('administer', (ctx) => people(ctx.db));
export const POST = secretly('administer', schema, (ctx, body) => invitePerson(ctx, body), 201);
