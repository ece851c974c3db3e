import { read } from '@/app/api/respond';
import { settingsTemplate } from '@/server/device/template';

export const GET = read('view', (ctx, _request, p) => settingsTemplate(ctx.db, p.stationId!));
