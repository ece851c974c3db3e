import type { Care } from '@/core/kit/care';
import { care, certifiedQuantity, comparedPair } from '@/schema/kit';
import { listOf } from '@/schema/shape';
import { stored } from './stored';

export const storedCertified = stored('certificate of an instrument', listOf(certifiedQuantity));
export const storedCare = stored<Care>('care of an instrument', care);
export const storedPairs = stored('readings of two instruments', listOf(comparedPair));
