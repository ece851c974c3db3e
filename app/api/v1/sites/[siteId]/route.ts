import { write } from '@/app/api/respond';
import { changeSite as schema } from '@/contract/planRequests';
import { changeSite } from '@/server/administer/changeStation';

export const PUT = write('set-up', schema, (ctx, body, { siteId }) => changeSite(ctx, siteId!, body));
