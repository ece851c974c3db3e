import { columnUnit, guessColumn } from './guessColumn';

describe('what a column may hold', () => {
  test.each([
    ['temperature', '', { quantity: 'airTemperature', unit: '°C' }],
    ['Water temp', 'degF', { quantity: 'waterTemperature', unit: '°F' }],
    ['wind direction', '', { quantity: 'windDirection', unit: '°' }],
    ['wind', 'm/s', { quantity: 'windSpeed', unit: 'm/s' }],
    ['wind', 'mph', { quantity: 'windSpeed', unit: 'mph' }],
    ['Sensor 4', 'mbar', { quantity: 'airPressure', unit: 'hPa' }],
    ['Sensor 4', 'ppm', { quantity: 'co2', unit: 'ppm' }],
    ['Humidity', '% RH', { quantity: 'humidity', unit: '%RH' }],
    ['Humidity', '%', { quantity: 'humidity', unit: '%RH' }],
    ['RH', '%', { quantity: 'humidity', unit: '%RH' }],
    ['DO', '%', { quantity: 'oxygenSaturation', unit: '%' }],
    ['DO_mgL', '', { quantity: 'dissolvedOxygen', unit: 'mg/L' }],
    ['Level', 'ft', { quantity: 'waterLevel', unit: 'ft' }],
    ['Stage', 'mm', { quantity: 'waterLevel', unit: 'mm' }],
    ['level_ft', '', { quantity: 'waterLevel', unit: 'ft' }],
    ['Dew point', '', { quantity: 'dewPoint', unit: '°C' }],
    ['AirTemp_K', '', { quantity: 'airTemperature', unit: 'K' }],
    ['baro', 'inHg', { quantity: 'airPressure', unit: 'inHg' }],
    ['Global radiation', 'W/m2', { quantity: 'radiation', unit: 'W/m²' }],
    ['Flow', 'L/s', { quantity: 'discharge', unit: 'L/s' }],
    ['Soil moisture', '%', { quantity: 'soilMoisture', unit: '%' }],
    ['Grain moisture', '%', { quantity: 'bulkMoisture', unit: '%' }],
    ['Sensor 4', 'mV', { quantity: 'signal', unit: 'mV' }],
    ['note', '', null],
  ] as const)('%s (%s)', (name, unit, want) => expect(guessColumn(name, unit)).toEqual(want));
  test.each([
    ['Level', 'furlong', 'waterLevel'],
    ['Turbidity', 'FNU', 'turbidity'],
    ['Temperature', 'mV', 'airTemperature'],
    ['Temperature', 'hPa', 'airTemperature'],
  ] as const)('%s in %s: the quantity is proposed, its unit is asked', (name, unit, quantity) => {
    expect(guessColumn(name, unit)).toEqual({ quantity, unit: null });
    expect(columnUnit(quantity, name, unit)).toBeNull();
  });
  test('a unit nobody knows on a name nobody knows proposes nothing', () =>
    expect(guessColumn('Sensor 4', 'furlong')).toBeNull());
});
