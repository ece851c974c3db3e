import { fieldWrites } from '@/contract/fieldWrites';
import { isKnown } from './deliver';
import type { Queued } from './queued';

/** What a queued write is, in a word or two; its bare kind where this version does not know it. */
export const titleOf = ({ kind }: Pick<Queued, 'kind'>): string =>
  isKnown({ kind }) ? fieldWrites[kind].title : kind;

/** What a queued write says of itself. */
export const saysOf = ({ kind, body }: Queued): string =>
  isKnown({ kind }) ? (fieldWrites[kind] as { says: (body: unknown) => string }).says(body) : '';
