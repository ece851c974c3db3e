import { compareHumidity, oneAir as between, temperatureShare } from '../check/humidityComparison';
import { thermometersOf, type CheckPlan } from '../check/plan';
import { mean } from '../check/uncertainty';
import { frostPointOf } from '../moistAir/humidity';
import { roundTo } from '../quantity/format';
import type { Companion, Fact, Gathered, Procedure } from './procedure';
import { referenceOf, sideBySide } from './sideBySide';

const thermometer = (of: 'sensor' | 'reference', name: string): Companion => ({
  name,
  unit: '°C',
  decimals: 2,
  range: [-60, 80],
  of,
  quantity: 'airTemperature',
  isNeeded: true,
  why: 'Humidity hangs on temperature: read both off one display.',
});

/** Humidity in one moving air, or brought to one temperature where it is not. See `compareHumidity`. */
export const oneAir: Procedure = {
  ...sideBySide,
  name: 'In one moving air',
  quantities: ['humidity'],
  companions: {
    sensorTemperature: thermometer('sensor', 'its temperature'),
    referenceTemperature: {
      ...thermometer('reference', 'at temperature'),
      near: { key: 'sensorTemperature', within: 6 },
    },
  },
  steps: () => [
    {
      say: 'Both in one moving air: a small fan, or the wind, out of the sun.',
      why: 'One degree between them is six percent of the humidity.',
    },
    {
      say: 'Stand back, and breathe away from both.',
      why: 'Breath is warm and saturated.',
    },
    {
      say: 'Wait until the temperatures stand, then the humidities.',
      why: 'Humidity settles last: it follows the temperature of its own element.',
      wait: 60,
    },
    {
      say: 'Read both at one moment, again after a pause.',
      why: 'Repeats within one breath of air are one.',
    },
  ],
  compare(read, plan) {
    const reference = referenceOf(read);
    const { sensorTemperature, referenceTemperature } = read.companions;
    if (reference === null || sensorTemperature === undefined || referenceTemperature === undefined)
      return null;
    const found = compareHumidity(
      {
        sensorHumidity: read.sensor,
        sensorTemperature,
        referenceHumidity: reference,
        referenceTemperature,
      },
      thermometersOf(plan),
    );
    return {
      reference: found.referenceAtSensor,
      difference: found.difference,
      how: found.method === 'brought' ? 'brought to the sensor’s °C' : null,
      facts: [...pointsOf('sensor', found.sensorDewPoint), ...pointsOf('reference', found.referenceDewPoint)],
    };
  },
  further(all, plan) {
    const humidity = mean(all.map((r) => referenceOf(r) ?? Number.NaN));
    const temperature = mean(all.map((r) => r.companions.sensorTemperature ?? Number.NaN));
    if (!Number.isFinite(temperature) || !Number.isFinite(humidity)) return [];
    const share = (tolerance: number) => roundTo(temperatureShare(temperature, humidity, tolerance), 2);
    if (plan.comparesDirectly && all.every((r) => isOneAir(r, plan)))
      return [{ name: 'air between them', limit: share(between) }];
    return plan.companions.flatMap(({ key, tolerance }) =>
      tolerance === null
        ? []
        : [
            {
              name: key === 'sensorTemperature' ? 'sensor’s thermometer' : 'reference’s thermometer',
              limit: share(tolerance),
            },
          ],
    );
  },
  source: 'WMO-No. 8, Annex 4.B; JCGM 100:2008; decision 47',
};

const isOneAir = (read: Gathered, plan: CheckPlan): boolean => {
  const compared = oneAir.compare(read, plan);
  return compared !== null && compared.how === null;
};

/** Dew point, and below 0 °C, where a dew point is one over water, the frost point beside it. */
function pointsOf(of: string, dew: number): Fact[] {
  const frost = dew < -45 ? null : frostPointOf(dew);
  return [
    { name: `dew point, ${of}${frost === null ? '' : ', over water'}`, value: dew, unit: '°C', decimals: 1 },
    ...(frost === null
      ? []
      : [{ name: `frost point, ${of}, over ice`, value: frost, unit: '°C' as const, decimals: 1 }]),
  ];
}
