import type { PlannedPoint } from '../check/plan';
import { differenceOf } from '../check/comparison';
import type { CheckPlan } from '../check/plan';
import { between } from '../fit/between';
import { finite, notNegative } from '../valid';
import type { Compared, FurtherLimit, Gathered, GivenPoint, Procedure } from './procedure';

/** What the known values that a sensor is brought to have in common. */

/**
 * What a point is at a temperature, base unit: by its label's table, straight between two rows.
 *
 * @param point its table
 * @param temperature of the medium, °C; null where nobody read it
 * @throws RangeError outside its table, and where it hangs on a temperature that nobody read
 * @example valueOfPoint({ values: [{ temperature: 20, value: 6.88 }, { temperature: 25, value: 6.86 }] }, 22.5) // 6.87
 */
export function valueOfPoint({ values }: Pick<PlannedPoint, 'values'>, temperature: number | null): number {
  const [first] = values;
  if (!first) throw new RangeError('this point has no value of its own');
  if (first.temperature === null) return first.value;
  if (temperature === null) throw new RangeError('its temperature was not read');
  finite('temperature', temperature);
  const last = values.at(-1)!;
  if (temperature < first.temperature || temperature > last.temperature!)
    throw new RangeError(
      `${temperature} °C is outside its table, ${first.temperature} to ${last.temperature} °C`,
    );
  return between(
    values.map((v) => [v.temperature!, v.value] as const),
    temperature,
  );
}

/** A sensor at a known point: compared with what that is at the temperature read beside it. */
export const comparePoint =
  (temperatureKey: string | null) =>
  (read: Gathered, { quantity }: CheckPlan): Compared | null => {
    if (!read.point) return null;
    const temperature = temperatureKey === null ? null : (read.companions[temperatureKey] ?? null);
    const reference = valueOfPoint(read.point, temperature);
    return {
      reference,
      difference: differenceOf(quantity, read.sensor, reference),
      how:
        temperature === null || read.point.values[0]?.temperature === null
          ? null
          : 'by its table at that temperature',
      facts: [],
    };
  };

/** A point whose value hangs on its temperature; the thermometer known to ± so much where nobody states it, °C. */
export const atTemperature = (unstated: number): Pick<Procedure, 'compare' | 'further'> => ({
  compare: comparePoint('temperature'),
  further: (all, { companions }) =>
    temperatureLimit(
      all,
      'temperature',
      companions.find((c) => c.key === 'temperature')?.tolerance ?? unstated,
    ),
});

/** What a point's own value moves by while its temperature is known to ± so much, base unit. */
export function temperatureLimit(
  all: readonly Gathered[],
  key: string,
  tolerance: number,
): readonly FurtherLimit[] {
  notNegative('tolerance of the thermometer', tolerance);
  let limit = 0;
  for (const { point, companions } of all) {
    const at = companions[key];
    if (!point || at === undefined || point.values.length < 2) continue;
    const up = valueOfPoint(point, within(point, at + tolerance));
    const down = valueOfPoint(point, within(point, at - tolerance));
    limit = Math.max(limit, Math.abs(up - down) / 2);
  }
  return limit > 0 ? [{ name: 'temperature of the standard', limit }] : [];
}

/** The temperature in the table of a point that is next to another. */
const within = ({ values }: PlannedPoint, temperature: number): number =>
  Math.min(values.at(-1)!.temperature!, Math.max(values[0]!.temperature!, temperature));

/** A point that hangs on no temperature. */
export const fixedPoint = (key: string, name: string, value: number, tolerance: number): GivenPoint => ({
  key,
  name,
  values: [{ temperature: null, value }],
  tolerance,
});
