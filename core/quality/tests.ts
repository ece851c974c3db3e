import { climatology } from './climatology';
import { flat } from './flatLine';
import { gross, user } from './range';
import { rate } from './rateOfChange';
import { spike } from './spike';
import type { QualityTestOf } from './qualityTest';

/** The quality tests in the order they are offered. One more is its file and its line here. */
export const qualityTests = { gross, user, climatology, spike, rate, flat } as const;

export type SetTest = keyof typeof qualityTests;
type LimitsOf<T> = T extends QualityTestOf<infer Limits> ? Limits : never;

/** What the tests of one channel go by; a null switches a test off. Base units. */
export type QualityThresholds = { readonly [T in SetTest]: LimitsOf<(typeof qualityTests)[T]> | null };

export const setTests = Object.keys(qualityTests) as readonly SetTest[];

/** A test without the type of its limits, for what treats all of them alike. */
export const testOf = (code: SetTest): QualityTestOf<unknown> => qualityTests[code] as QualityTestOf<unknown>;

/** The gap test needs no thresholds: it goes by the storage interval. */
export type QualityTest = 'gap' | SetTest;
/** @example qualityTestName('flat') // 'flat line' */
export const qualityTestName = (test: QualityTest): string =>
  test === 'gap' ? 'timing and gap' : qualityTests[test].name;
