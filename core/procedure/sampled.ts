import { mean, standardDeviation } from '../check/uncertainty';
import { outlierOf } from '../statistics/dixon';
import { referenceOf } from './sideBySide';
import type { Companion, Health, Procedure } from './procedure';

/** So many tests of a mixed sample are averaged at least; some say three to five. Common practice, no source. */
export const fewestTests = 3;

const temperature = (name: string, of: Companion['of']): Companion => ({
  name,
  unit: '°C',
  decimals: 1,
  range: [-30, 90],
  of,
  quantity: null,
  isNeeded: false,
  isLate: true,
  why: 'Sample and tester at one temperature, and the tester within its range: below freezing it does not work.',
});

/** Bulk goods in line against a bench tester: the average of a window is held, the tester’s answer comes later. */
export const sampled: Procedure = {
  name: 'Samples against a bench tester',
  quantities: ['bulkMoisture'],
  against: 'instrument',
  points: () => [],
  repeats: 2,
  window: 30,
  isLate: true,
  isTyped: false,
  isOfMaterial: true,
  honestReasons: ['start-up of the plant', 'another product or variety', 'probe replaced or moved'],
  companions: {
    lag: {
      name: 'filled late by',
      unit: 's',
      decimals: 0,
      range: [0, 600],
      of: 'place',
      quantity: null,
      isNeeded: false,
      isLate: true,
      why: 'From panel to port is a walk: what flowed by then is not what was averaged.',
    },
    sampleTemperature: temperature('sample’s temperature', 'place'),
    testerTemperature: temperature('tester’s temperature', 'reference'),
  },
  steps: () => [
    {
      say: 'Goods flowing, plant near its set point, probe face covered.',
      why: 'A probe that looks at air averages air: then what is held counts for nothing.',
      caution: 'Sample at the sampling port only; lock out before hands go in.',
    },
    {
      say: 'Look at the probe face, read; clean it, read again.',
      why: 'What cleaning changes is fouling, not drift.',
    },
    {
      say: 'Start the average, and draw small portions over the whole of it. Slowly, so that the face stays covered.',
      why: 'A single grab is one spot of the stream. From port to panel is a walk: start together, by call.',
      wait: 30,
    },
    { say: 'Mix the portions at once, close the container.', why: 'Standing, it dries and sorts itself.' },
    {
      say: 'Test three times or more, at the tester’s temperature; each test in here as it comes.',
      why: 'Tests average the tester’s scatter. They do not reduce what sampling leaves open: a second sample does.',
    },
    {
      say: 'The check waits meanwhile, on any device.',
      why: 'Every sample is a record; not every sample is a reason to adjust.',
    },
  ],
  compare(read) {
    const reference = referenceOf(read);
    if (reference === null || read.references.length < fewestTests) return null;
    return {
      reference,
      difference: read.sensor - reference,
      how: `mean of ${read.references.length} tests`,
      facts: [
        {
          name: 'scatter of the tests',
          value: standardDeviation(read.references),
          unit: '%',
          decimals: 2,
        },
      ],
    };
  },
  further(all) {
    // The standard error of each mean of tests, as the half-width of a rectangle of the same variance.
    const errors = all
      .filter((r) => r.references.length > 1)
      .map((r) => standardDeviation(r.references) / Math.sqrt(r.references.length));
    if (errors.length === 0) return [];
    const limit = Math.sqrt(3) * Math.sqrt(mean(errors.map((e) => e ** 2)) / all.length);
    return [{ name: 'scatter of the tests', limit: Number(limit.toPrecision(2)) }];
  },
  health: (all) =>
    all.flatMap(({ references, companions }, i): Health[] => {
      const outlier = outlierOf(references);
      const { sampleTemperature, testerTemperature, lag = 0 } = companions;
      const apart =
        sampleTemperature === undefined || testerTemperature === undefined
          ? 0
          : Math.abs(sampleTemperature - testerTemperature);
      return [
        ...(outlier
          ? [
              {
                name: `test ${outlier.index + 1} of sample ${i + 1}`,
                value: references[outlier.index]!,
                unit: '%',
                decimals: 1,
                isGood: false,
                says: `lies too far from the others for chance (Dixon’s Q ${outlier.q}). Test once more rather than leave it out.`,
              },
            ]
          : []),
        ...(lag > 30
          ? [
              {
                name: `sample ${i + 1}, filled late`,
                value: lag,
                unit: 's',
                decimals: 0,
                isGood: false,
                says: 'later than the whole window: what was tested did not pass the probe. Two people, one call.',
              },
            ]
          : []),
        ...(apart > 5
          ? [
              {
                name: `sample ${i + 1} and tester`,
                value: apart,
                unit: '°C',
                decimals: 1,
                isGood: false,
                says: 'apart in temperature: let them come to one, and test again.',
              },
            ]
          : []),
      ];
    }),
  source: 'common practice, no source; Dixon (1951) for tests that lie apart, from memory',
};
