import type { PartInUse } from '../device/part';
import type { Health } from '../procedure/procedure';
import { finite } from '../valid';

const day = 86_400;

/**
 * How long the part has been in the sensor, as a word on its health: an oxygen cap loses its dye with the years.
 *
 * Source: the maker's own statement in the profile; that a cap ages is common practice, no source.
 *
 * @param at s since epoch; what lies before it was put in counts as 0 days
 * @example partAge({ name: 'cap', since: 0, goodFor: 365 }, 400 * 86_400).isGood // false
 */
export function partAge({ name, since, goodFor }: PartInUse, at: number): Health {
  const days = Math.floor(Math.max(0, finite('time', at) - finite('since', since)) / day);
  const isGood = goodFor === null || days <= goodFor;
  return {
    name: `${name} in use`,
    value: days,
    unit: 'd',
    decimals: 0,
    isGood,
    says:
      goodFor === null
        ? 'Nobody states how long it serves.'
        : isGood
          ? `It serves ${goodFor} days.`
          : `It serves ${goodFor} days: put another in, tell the sensor its coefficients, check again.`,
  };
}
