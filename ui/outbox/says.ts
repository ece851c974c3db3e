import { fieldWrites } from '@/contract/fieldWrites';
import type { Queued } from './queued';

/** What a queued write says of itself. */
export const saysOf = ({ kind, body }: Queued): string =>
  (fieldWrites[kind] as { says: (body: unknown) => string }).says(body);
