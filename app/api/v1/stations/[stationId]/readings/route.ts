import { write } from '@/app/api/respond';
import { typeReadings as schema } from '@/contract/importRequests';
import { typeReadings } from '@/server/record/typeReadings';

export const POST = write('measure', schema, (ctx, body, p) => typeReadings(ctx, p.stationId!, body), 201);
