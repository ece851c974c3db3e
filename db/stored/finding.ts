import { listOf, text } from '@/schema/shape';
import { stored } from './stored';

/** What a finding asks to bring along. */
export const storedBring = stored('kit of a finding', listOf(text()));
