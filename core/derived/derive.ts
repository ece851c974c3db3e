import type { At, Formula } from './formula';
import type { Seconds } from '../time';

/** A record by stamp and clock run, ascending. Stamps in s; NaN for a value that is missing or not to be believed. */
export interface InputSeries {
  readonly times: Float64Array;
  readonly values: Float64Array;
  readonly runs: Int16Array;
}

/** A value that follows from others at one stamp. */
export interface DerivedReading {
  /** s since epoch */
  readonly at: Seconds;
  readonly run: number;
  readonly value: number;
}

/**
 * A formula over the stamps that its inputs have in common, by clock run; where one has no value, or the
 * formula gives none, there is no reading. An optional input that was not given is left out.
 *
 * @param inputs by the formula's names, corrected values in base units
 * @param parameters by the formula's names
 * @param circular whether the values are directions
 * @param discharge by the station's section and curve, where the formula goes by them
 */
export function derive(
  formula: Formula,
  inputs: Readonly<Record<string, InputSeries | undefined>>,
  parameters: Readonly<Record<string, number>>,
  circular = false,
  discharge: At['discharge'] = null,
): DerivedReading[] {
  const given = Object.keys(formula.inputs).flatMap((name) => {
    const series = inputs[name];
    return series ? [{ name, series, next: 0 }] : [];
  });
  const [first, ...others] = given;
  if (!first) return [];
  const found: DerivedReading[] = [];
  const values: Record<string, number | undefined> = {};
  for (let i = 0; i < first.series.times.length; i++) {
    const at = first.series.times[i]!;
    const run = first.series.runs[i]!;
    values[first.name] = first.series.values[i]!;
    let whole = !Number.isNaN(first.series.values[i]!);
    for (const o of others) {
      const { times, values: theirs, runs } = o.series;
      while (o.next < times.length && (times[o.next]! < at || (times[o.next] === at && runs[o.next]! < run)))
        o.next++;
      const same = o.next < times.length && times[o.next] === at && runs[o.next] === run;
      values[o.name] = same ? theirs[o.next]! : Number.NaN;
      if (Number.isNaN(values[o.name]!)) whole = false;
    }
    if (!whole) continue;
    const value = formula.of(values, parameters, circular, { at, discharge });
    if (Number.isFinite(value)) found.push({ at, run, value });
  }
  return found;
}
