import { instantOf } from '../problem';

/** A day as it was sent, as 2026-03-02; what is none is refused, with its field. */
export const dayOf = (field: string, text: string): string =>
  instantOf(field, text).toISOString().slice(0, 10);
