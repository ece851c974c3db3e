import { toleranceBudget, type School } from '@/core/check/budget';
import {
  compareHumidity,
  oneAir,
  temperatureShare,
  type Thermometers,
} from '@/core/check/humidityComparison';
import { judge, type Verdict } from '@/core/check/verdict';
import { humidityAt } from '@/core/moistAir/humidity';
import { normal } from './simulate';

/** A check against a reference of half the sensor's tolerance, three repeats, drawn at random; in tolerances. */
export function someCheck(random: () => number, school: School, scatter: number) {
  const draw = normal(random);
  return (error: number): Verdict => {
    const reference = 0.5 * (2 * random() - 1);
    const differences = [0, 1, 2].map(() => Math.round((error - reference + scatter * draw()) * 100) / 100);
    const budget = toleranceBudget({
      differences,
      sensorTolerance: 1,
      sensorResolution: 0.01,
      referenceTolerance: 0.5,
      referenceResolution: 0.01,
    });
    return judge({
      budget,
      school,
      guard: 10,
      plannedRepeats: 3,
      differences,
      settled: [true, true, true],
      decimals: 2,
    });
  };
}

/** Thermometers of both instruments of a humidity check, ± °C, and how far one moving air differs truly. */
const thermometers: Thermometers = { sensor: 0.3, reference: 0.2 };
const air = 0.1;

/** The same of a humidity sensor of ±3 %RH in one moving air of 20 °C, against ±1.5 %RH. */
export function someHumidityCheck(random: () => number, school: School, humidity: number, direct: boolean) {
  const draw = normal(random);
  const even = (limit: number) => limit * (2 * random() - 1);
  return (error: number): Verdict => {
    const [off, atSensor, atReference] = [even(1.5), even(thermometers.sensor), even(thermometers.reference)];
    const compared = [0, 1, 2].map(() => {
      const [here, there] = [20 + even(air), 20 + even(air)];
      return compareHumidity(
        {
          sensorHumidity: Math.round((humidityAt(humidity, 20, here) + error + 0.75 * draw()) * 10) / 10,
          sensorTemperature: Math.round((here + atSensor) * 100) / 100,
          referenceHumidity: Math.round((humidityAt(humidity, 20, there) + off) * 10) / 10,
          referenceTemperature: Math.round((there + atReference) * 100) / 100,
        },
        direct ? thermometers : null,
      );
    });
    const differences = compared.map((c) => c.difference);
    const share = (limit: number) => temperatureShare(20, humidity, limit);
    const budget = toleranceBudget({
      differences,
      sensorTolerance: 3,
      sensorResolution: 0.1,
      referenceTolerance: 1.5,
      referenceResolution: 0.1,
      further: compared.every((c) => c.method === 'direct')
        ? [{ name: 'air between them', limit: share(oneAir) }]
        : [
            { name: 'sensor’s thermometer', limit: share(thermometers.sensor) },
            { name: 'reference’s thermometer', limit: share(thermometers.reference) },
          ],
    });
    return judge({
      budget,
      school,
      guard: 30,
      plannedRepeats: 3,
      differences,
      settled: [true, true, true],
      decimals: 1,
    });
  };
}

/** Of so many checks: false adjust of good sensors, those at exactly the limit, caught of two tolerances off, undecided; shares. */
export function sharesOfChecks(
  random: () => number,
  check: (error: number) => Verdict,
  tolerance: number,
  runs: number,
) {
  const isSaid = ({ kind }: Verdict) => kind === 'adjust' || kind === 'beyond-guard';
  const either = () => (random() < 0.5 ? 1 : -1);
  let [accused, atLimit, caught, undecided] = [0, 0, 0, 0];
  for (let i = 0; i < runs; i++) {
    if (isSaid(check(tolerance * (2 * random() - 1)))) accused++;
    if (isSaid(check(either() * tolerance))) atLimit++;
    const far = check(2 * either() * tolerance);
    if (isSaid(far)) caught++;
    if (far.kind === 'not-settled') undecided++;
  }
  return {
    accused: accused / runs,
    atLimit: atLimit / runs,
    caught: caught / runs,
    undecided: undecided / runs,
  };
}
