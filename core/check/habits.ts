import type { QuantityCode } from '../quantity/quantity';

/** What a person does wrong with a handheld, and what its display makes of it: for the practice stand. */
export const habits = {
  'too-early': 'read too early: it still comes out of a pocket',
  breathed: 'breathed on',
  shaken: 'its sample shaken: bubbles',
  'wrong-zone': 'read in another zone',
} as const;
export type Habit = keyof typeof habits;
export const habitNames = Object.keys(habits) as readonly Habit[];

/** Share of the way from the pocket that is still to go when somebody reads too early. Our own invention. */
const stillToGo = 0.35;
/** What a pocket is like. Our own invention. */
const pocket: Partial<Record<QuantityCode, number>> = {
  airTemperature: 27,
  humidity: 45,
  co2: 900,
  waterTemperature: 20,
  surfaceTemperature: 27,
  soilTemperature: 20,
};
const breath: Partial<Record<QuantityCode, number>> = { airTemperature: 0.4, humidity: 6, co2: 260 };
const bubbles: Partial<Record<QuantityCode, number>> = { turbidity: 6, dissolvedOxygen: 0.35 };

/**
 * What is read instead of the truth by somebody of a habit, base unit; what the habit does not touch stays true.
 *
 * @param truth where the handheld should be, base unit
 * @param elsewhere the truth of another zone; null where there is none
 * @example readBy('breathed', 'co2', 420, null) // 680
 */
export function readBy(
  habit: Habit,
  quantity: QuantityCode,
  truth: number,
  elsewhere: number | null,
): number {
  switch (habit) {
    case 'too-early':
      return truth + stillToGo * ((pocket[quantity] ?? truth) - truth);
    case 'breathed':
      return truth + (breath[quantity] ?? 0);
    case 'shaken':
      return truth + (bubbles[quantity] ?? 0);
    case 'wrong-zone':
      return elsewhere ?? truth;
  }
}
