import { secretly } from '@/app/api/respond';
import { nothing } from '@/contract/requests';
import { newLink } from '@/server/account/people';

export const POST = secretly('administer', nothing, (ctx, _body, p) => newLink(ctx, p.personId!), 201);
