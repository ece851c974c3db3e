import { v7, validate } from 'uuid';

/** A new time-ordered id. */
export const newId = (): string => v7();

/** Whether a text can be somebody's id at all: what cannot is not asked of the database. */
export const isId = (text: string): boolean => validate(text);
