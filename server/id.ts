import { v7 } from 'uuid';

/** A new time-ordered id. */
export const newId = (): string => v7();
