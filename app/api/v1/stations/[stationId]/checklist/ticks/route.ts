import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { tickChecklist } from '@/server/visit/checklist';

export const POST = receive(
  fieldWrites.checklistTick,
  (ctx, body, { stationId }) => tickChecklist(ctx, stationId!, body),
  201,
);
