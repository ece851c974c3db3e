import { write } from '@/app/api/respond';
import { nothing } from '@/contract/requests';
import { signOutEverywhere } from '@/server/account/people';

export const POST = write('administer', nothing, (ctx, _body, p) => signOutEverywhere(ctx, p.personId!));
