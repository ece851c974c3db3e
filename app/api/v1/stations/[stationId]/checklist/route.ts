import { receive } from '@/app/api/receive';
import { fieldWrites } from '@/contract/fieldWrites';
import { addToChecklist } from '@/server/visit/checklist';

export const POST = receive(
  fieldWrites.checklistAdd,
  (ctx, body, { stationId }) => addToChecklist(ctx, stationId!, body),
  201,
);
