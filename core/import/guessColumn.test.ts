import { guessColumn } from './guessColumn';

describe('what a column may hold', () => {
  test.each([
    ['temperature', '', { quantity: 'airTemperature', unit: '°C' }],
    ['Water temp', 'degF', { quantity: 'waterTemperature', unit: '°F' }],
    ['wind direction', '', { quantity: 'windDirection', unit: '°' }],
    ['wind', 'm/s', { quantity: 'windSpeed', unit: 'm/s' }],
    ['Sensor 4', 'mbar', { quantity: 'airPressure', unit: 'hPa' }],
    ['Humidity', '% RH', { quantity: 'humidity', unit: '%RH' }],
    ['Level', 'ft', { quantity: 'waterLevel', unit: 'ft' }],
    ['note', '', null],
  ] as const)('%s (%s)', (name, unit, want) => expect(guessColumn(name, unit)).toEqual(want));
});
