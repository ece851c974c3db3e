import { write } from '@/app/api/respond';
import { stationDescription } from '@/contract/stationDescription';
import { addStation } from '@/server/administer/addStation';

export const POST = write('set-up', stationDescription, (ctx, body) => addStation(ctx, body), 201);
