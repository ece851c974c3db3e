import { read, write } from '@/app/api/respond';
import { addProfile as schema } from '@/contract/planRequests';
import { addProfile } from '@/server/device/addProfile';
import { newestDevices } from '@/server/device/profiles';

export const GET = read('view', (ctx) => newestDevices(ctx.db));
export const POST = write('set-up', schema, (ctx, { profile }) => addProfile(ctx, profile), 201);
