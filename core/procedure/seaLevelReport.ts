import { pressureAt } from '../air/seaLevel';
import { referenceOf, sideBySide } from './sideBySide';
import type { Procedure } from './procedure';

/** A barometer against a report that was reduced to sea level: the report is brought up to it, never the other way. */
export const seaLevelReport: Procedure = {
  ...sideBySide,
  name: 'Against a report reduced to sea level',
  quantities: ['airPressure'],
  companions: {
    elevation: {
      name: 'elevation of the barometer',
      unit: 'm',
      decimals: 1,
      range: [-430, 5000],
      of: 'place',
      quantity: null,
      isNeeded: true,
      why: 'Near the sea the air loses 1 hPa in 8 m.',
    },
    airTemperature: {
      name: 'air temperature, for a weather report (QFF); none for one of aviation (QNH)',
      unit: '°C',
      decimals: 1,
      range: [-60, 60],
      of: 'place',
      quantity: null,
      isNeeded: false,
      why: 'Weather services reduce by the temperature of the air, aviation by the standard atmosphere.',
    },
  },
  steps: () => [
    {
      say: 'Take the report of a station nearby, in calm weather, for the time of your reading.',
      why: 'A gradient over the isles, or an hour, is more than a barometer’s tolerance.',
    },
    {
      say: 'Find out how it was reduced: by the temperature of the air (QFF), or by the standard atmosphere (QNH).',
      why: 'On a cold day at 300 m the two lie 3 hPa apart.',
    },
    {
      say: 'Enter the elevation of the barometer itself, not that of the ground.',
      why: 'Each metre is an eighth of a hectopascal.',
    },
  ],
  compare(read) {
    const report = referenceOf(read);
    const { elevation, airTemperature } = read.companions;
    if (report === null || elevation === undefined) return null;
    const reference = pressureAt(report, elevation, airTemperature ?? null);
    return {
      reference,
      difference: read.sensor - reference,
      how:
        airTemperature === undefined
          ? 'brought up to the barometer by the standard atmosphere'
          : 'brought up to the barometer by the temperature of the air',
      facts: [{ name: 'reduced to sea level', value: report, unit: 'hPa', decimals: 1 }],
    };
  },
  further: (all) => {
    // Half a metre of its elevation, and where a temperature was read, 5 K of the air between.
    const limits = all.flatMap((read) => {
      const report = referenceOf(read);
      const { elevation, airTemperature } = read.companions;
      if (report === null || elevation === undefined) return [];
      const at = (up: number, warmer: number) =>
        pressureAt(report, elevation + up, airTemperature === undefined ? null : airTemperature + warmer);
      return [(Math.abs(at(0.5, 0) - at(-0.5, 0)) + Math.abs(at(0, 5) - at(0, -5))) / 2];
    });
    return limits.length > 0 ? [{ name: 'reduction to sea level', limit: Math.max(...limits) }] : [];
  },
  source: 'ISO 2533; WMO-No. 8, 3.11, from memory',
};
