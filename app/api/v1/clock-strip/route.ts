import { read } from '@/app/api/respond';
import { clockStrip } from '@/server/trust/round';

export const GET = read('view', (ctx) => clockStrip(ctx.db));
