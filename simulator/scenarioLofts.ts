import { indoor, mains, type ScenarioSensor, type ScenarioStation } from './scenarioStation';

const loft = (n: number): ScenarioSensor => ({
  serial: `TH4-03${10 + n}`,
  model: 'quern-th4',
  busId: n,
  zone: `Loft ${n}`,
  climate: indoor(19 + n, 58 - 2 * n),
  cable: 12 * n,
});

/** A line with three models' worth of company, behind a gateway that is set over the network: here things go wrong on purpose. */
export const lofts: ScenarioStation = {
  site: 'Kelp Shed',
  code: 'KELP-3',
  name: 'Curing lofts',
  loggerSerial: 'BR8-0451',
  // Known to be bad: whoever compares is told so.
  firmware: '2.2.4',
  gateway: 'brannoch-g3',
  storageInterval: 600,
  supply: 24,
  cautions: [mains],
  sensors: [
    loft(1),
    loft(2),
    loft(3),
    {
      serial: 'K2-0071',
      model: 'harrow-k2',
      busId: 4,
      zone: 'Bale press',
      climate: { bulkMoisture: { base: 15.5, daily: -0.8, weather: 1.4 } },
      cable: 30,
    },
  ],
};
