import { write } from '@/app/api/respond';
import { changePerson as schema } from '@/contract/accountRequests';
import { changePerson } from '@/server/account/people';

export const PUT = write('administer', schema, (ctx, body, p) => changePerson(ctx, p.personId!, body));
