import { decodeField } from './device/registerField';
import { outputTolerance, registerOf, type SensorOutput } from './device/profile';
import { shippedProfile } from '@/catalogue/profiles';
import { characterTime, frameSilence } from './bus/serial';
import { accuracyRatioText, toleranceBudget } from './check/budget';
import { driftOutlook } from './check/drift';
import { compareHumidity, temperatureShare } from './check/humidityComparison';
import { judgePlausible } from './check/plausible';
import { projectFinal } from './check/projection';
import { judgeSettling } from './check/settling';
import { combine, coverageFactor, normalizedError, readTo, rectangular, repeats } from './check/uncertainty';
import { judge, judgeConvergence } from './check/verdict';
import { dewPoint, humidityAt, humidityPerDegree, saturationPressure } from './moistAir/humidity';
import { judgeSupply, supplyAtSensor } from './power/supply';
import { flag } from './quality/flag';
import { flatLineTest } from './quality/flatLine';
import { rangeTest } from './quality/range';
import { rateOfChangeTest } from './quality/rateOfChange';
import { joinSpans, runTests } from './quality/runTests';
import { spikeTest } from './quality/spike';
import { stuckSince } from './quality/stuck';
import { completed } from './quality/thresholds';
import { missingBetween } from './quality/timing';
import {
  additionSum,
  decimalsOf,
  differenceSum,
  formatAge,
  formatDifference,
  formatValue,
  roundTo,
} from './quantity/format';
import { differenceToBase, valueToBase } from './quantity/unit';
import { meanDirection } from './series/circular';
import { clockDifference } from './series/clock';
import { clockRunOf } from './series/clockRun';
import { correctionAt, driftedStamp, loggedStamp } from './series/correction';
import { dueBetween, findGaps } from './series/gaps';
import { rollupBuilder, widerRollups } from './series/rollup';

/**
 * Every public function of core that reckons, with an argument no measurement can have: it is refused by
 * name, and none looks for an answer for ever. What may well be missing (NaN in a record) is not among them.
 */
const budget = {
  differences: [0.1],
  sensorTolerance: 0.3,
  sensorResolution: 0.1,
  referenceTolerance: 0.2,
  referenceResolution: 0.1,
};
const good = toleranceBudget(budget);
const verdict = {
  budget: good,
  school: 'sum' as const,
  guard: 2,
  plannedRepeats: 1,
  differences: [0.1],
  settled: [true],
  decimals: 2,
};
const rule = { window: 60, band: 0.1, resolution: 0.01 };
const readings = Array.from({ length: 20 }, (_, i) => ({ t: i * 5, value: 20 + 1 / (i + 1) }));
const series = { times: Float64Array.of(0, 600), values: Float64Array.of(1, 2) };
const none = completed({});
const found = [0, 40].map((d) => ({ at: d * 864e5, difference: d, reference: 'x', referenceTolerance: 1 }));
const every = () => ({ interval: 600, phase: 0 });
const [output] = shippedProfile('quern-th3')!.outputs as [SensorOutput];
const serial = { baud: 0, dataBits: 8, parity: 'none', stopBits: 1 } as const;
const manySpans = Array.from({ length: 500 }, (_, i) => ({
  test: 'spike' as const,
  flag: flag.fail,
  from: i * 9e9,
  until: i * 9e9,
  n: 1,
}));

test.each<[string, () => unknown]>([
  ['a register of two words where one is', () => decodeField(registerOf(output)!, [1, 2])],
  ['a tolerance at NaN', () => outputTolerance(output, NaN)],
  ['a line of 0 baud', () => characterTime(serial)],
  ['its silence', () => frameSilence(serial)],
  ['a budget with a negative tolerance', () => toleranceBudget({ ...budget, sensorTolerance: -1 })],
  ['a budget with a tolerance of NaN', () => toleranceBudget({ ...budget, referenceTolerance: NaN })],
  ['a budget with a negative resolution', () => toleranceBudget({ ...budget, sensorResolution: -0.1 })],
  ['a budget with an infinite difference', () => toleranceBudget({ ...budget, differences: [Infinity] })],
  [
    'a budget with a further limit of NaN',
    () => toleranceBudget({ ...budget, further: [{ name: 'x', limit: NaN }] }),
  ],
  ['an accuracy ratio of NaN', () => accuracyRatioText(NaN)],
  ['a drift towards a limit of 0', () => driftOutlook(found, 0)],
  ['a drift through NaN', () => driftOutlook([...found, { ...found[0]!, at: NaN }], 1)],
  [
    'humidity beyond 105 %RH',
    () =>
      compareHumidity(
        {
          sensorHumidity: 50,
          sensorTemperature: 20,
          referenceHumidity: 200,
          referenceTemperature: 20,
        },
        null,
      ),
  ],
  ['a share of a negative tolerance', () => temperatureShare(20, 50, -1)],
  [
    'plausible within a distance of 0',
    () => judgePlausible({ quantity: 'ph', value: 7, unit: 'pH', sensor: 7, far: 0 }),
  ],
  ['settling over a window of 0', () => judgeSettling(readings, { ...rule, window: 0 })],
  ['settling within a band of NaN', () => judgeSettling(readings, { ...rule, band: NaN })],
  ['a projection of readings with NaN', () => projectFinal([...readings, { t: 200, value: NaN }], 0.1)],
  ['a rectangle of −1', () => rectangular('x', -1)],
  ['a resolution of NaN', () => readTo('x', NaN)],
  ['repeats with an infinity', () => repeats('x', [1, Infinity])],
  ['a combination with a negative part', () => combine([{ name: 'x', u: -1, dof: 3, of: -1, root: 1 }])],
  ['coverage at half a degree of freedom', () => coverageFactor(0.5)],
  ['Eₙ of a negative uncertainty', () => normalizedError(1, 0, -1, 1)],
  ['Eₙ of NaN', () => normalizedError(NaN, 0, 1, 1)],
  ['a verdict under a guard of 0', () => judge({ ...verdict, guard: 0 })],
  ['a verdict of no planned repeats', () => judge({ ...verdict, plannedRepeats: 0 })],
  ['a convergence to NaN', () => judgeConvergence(1, NaN, 1, 1)],
  ['a convergence of no adjustment', () => judgeConvergence(1, 0.5, 1, 0)],
  ['vapour at −100 °C', () => saturationPressure(-100)],
  ['a dew point of dry air', () => dewPoint(20, 0)],
  ['air brought to NaN', () => humidityAt(50, 20, NaN)],
  ['humidity of NaN by the degree', () => humidityPerDegree(20, NaN)],
  ['a cable of −1 m', () => supplyAtSensor({ supply: 12, current: 0.1, length: -1, resistance: 84 })],
  ['a supply of NaN', () => judgeSupply(NaN, 9, 28)],
  [
    'a flat line of no values',
    () => flatLineTest(series.values, { eps: 0.1, suspect: 0, fail: 0 }, false, () => {}),
  ],
  [
    'a flat line within −1',
    () => flatLineTest(series.values, { eps: -1, suspect: 3, fail: 5 }, false, () => {}),
  ],
  ['a range from NaN', () => rangeTest(1, NaN, 2, flag.fail)],
  ['a rate of 0', () => rateOfChangeTest(1, 2, 600, 0)],
  ['a spike limit of NaN', () => spikeTest(1, 2, 3, { suspect: NaN, fail: 4 })],
  ['tests at an interval of 0', () => runTests(series, 'ph', none, 0)],
  [
    'tests of stamps without values',
    () => runTests({ times: series.times, values: new Float64Array(1) }, 'ph', none, 600),
  ],
  ['spans joined at an interval of 0, which never ended', () => joinSpans(manySpans, 0)],
  ['stuck at an interval of NaN', () => stuckSince([], 0, NaN)],
  ['what is missing at an interval of 0', () => missingBetween(600, 0)],
  ['decimals of a resolution of 0', () => decimalsOf(0)],
  ['a value with −1 decimals', () => formatValue(1, -1)],
  ['a difference with 1.5 decimals', () => formatDifference(1, 1.5)],
  ['rounding to NaN decimals', () => roundTo(1, NaN)],
  ['a metre in hPa', () => valueToBase(1, 'm', 'hPa')],
  ['a difference of a metre in hPa', () => differenceToBase(1, 'm', 'hPa')],
  ['a direction of NaN', () => meanDirection(NaN, 1, 3)],
  ['a direction of nobody', () => meanDirection(0, 0, 0)],
  ['a clock at NaN', () => clockDifference({ asked: 0, logger: NaN, answered: 1 }, 1)],
  ['a clock of negative steps', () => clockDifference({ asked: 0, logger: 0, answered: 1 }, -1)],
  ['the run of an infinite stamp', () => clockRunOf([], Infinity)],
  ['a correction at NaN', () => correctionAt([], NaN)],
  ['a drifted stamp of NaN', () => driftedStamp([], NaN)],
  ['a logged stamp of infinity', () => loggedStamp([], Infinity)],
  ['due at an interval of −600', () => dueBetween(0, 3600, { interval: -600, phase: 0 })],
  ['gaps in buckets of 0, which never ended', () => findGaps([], 0, 3600, 0, every)],
  ['gaps until infinity', () => findGaps([], 0, Infinity, 3600, every)],
  ['rollups of width 0', () => rollupBuilder(0)],
  ['wider rollups of width NaN', () => widerRollups([], NaN)],
])('%s is refused', (_, ask) => expect(ask).toThrow(RangeError));

test('what is only missing is said as such', () => {
  expect([formatValue(NaN, 1), formatDifference(null, 1), formatAge(NaN)]).toEqual(['–', '–', 'never']);
  expect(differenceSum(NaN, 1, 1)).toBe('– − 1.0 = –');
  expect(additionSum(0, NaN, 1)).toBe('0.0 + (–) = –');
  expect(roundTo(Infinity, 2)).toBe(Infinity);
});
