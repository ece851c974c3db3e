import { finite } from '@/schema/pieces';
import { mapOf, text } from '@/schema/shape';
import { stored } from './stored';

/** Channels a derived one rests on, by the formula's names; what was set once, likewise. */
export const storedInputs = stored('inputs of a derived channel', mapOf(text()));
export const storedParameters = stored('parameters of a derived channel', mapOf(finite()));
