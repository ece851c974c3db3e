import { compareVersions, knownBad } from '../device/firmware';
import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { settingDifferences } from './channelSettings';
import { limitsOutOfOrder, usualLimits } from './limits';
import { doubtsOfDry, wetThreshold } from './wetThreshold';
import { applyTemplate, type SettingsTemplate, type TemplateChannel } from './template';

const channel = (sensor: string, output: string, storageInterval: number): TemplateChannel => ({
  sensor,
  output,
  settings: {
    enabled: true,
    quantity: 'airTemperature',
    unit: '°C',
    measurementInterval: 60,
    storageInterval,
    adjustIn: 'device',
  },
});
const template = (...channels: TemplateChannel[]): SettingsTemplate => ({
  format: 'outer-cairn-settings',
  version: 1,
  from: 'A',
  channels,
});
const target = (id: string, sensor: string, output: string) => ({ id, sensor, output });

describe('a template of settings', () => {
  test('goes by model and output, not by number; of one kind in their order, the last again', () => {
    const { taken, unused } = applyTemplate(
      template(channel('th', 't', 60), channel('th', 't', 120), channel('lv', 'h', 300)),
      [target('c', 'lv', 'h'), target('a', 'th', 't'), target('b', 'th', 't'), target('d', 'th', 't')],
    );
    expect(taken.map((t) => [t.id, t.settings.storageInterval])).toEqual([
      ['c', 300],
      ['a', 60],
      ['b', 120],
      ['d', 120],
    ]);
    expect(unused).toEqual([]);
  });
  test('what finds no place is said, and what has no settings in it stays as it is', () => {
    const { taken, unused } = applyTemplate(template(channel('th', 't', 60), channel('ph', 'x', 60)), [
      target('a', 'th', 't'),
      target('b', 'th', 'rh'),
    ]);
    expect(taken.map((t) => t.id)).toEqual(['a']);
    expect(unused.map((c) => c.sensor)).toEqual(['ph']);
  });
});

describe('firmware', () => {
  test.each([
    ['2.4.1', '2.4.1', 0],
    ['2.10', '2.9.3', 1],
    ['2.4', '2.4.0', 0],
    ['1.99', '2.0', -1],
    ['beta', '0.1', -1],
  ])('%s against %s', (a, b, sign) => {
    expect(Math.sign(compareVersions(a, b))).toBe(sign);
    expect(Math.sign(compareVersions(b, a))).toBe(sign === 0 ? 0 : -sign);
  });
  test('known to be bad from one version on, until it was mended', () => {
    const list = [{ code: 'x', from: '2.2.0', before: '2.3.0', says: 'It forgets.' }];
    const bad = (v: string, code = 'x') => knownBad(code, v, list).length;
    expect([bad('2.1.9'), bad('2.2.0'), bad('2.2.9'), bad('2.3.0'), bad('2.2.5', 'y')]).toEqual([
      0, 1, 1, 0, 0,
    ]);
    expect(knownBad('x', '9', [{ code: 'x', from: null, before: null, says: 's' }])).toHaveLength(1);
  });
});

describe('limits', () => {
  test('rise, or are named where they do not; none is as good as four', () => {
    expect(limitsOutOfOrder({ farLow: null, low: null, high: null, farHigh: null })).toBeNull();
    expect(limitsOutOfOrder({ farLow: 1, low: 2, high: 3, farHigh: 4 })).toBeNull();
    expect(limitsOutOfOrder({ farLow: 5, low: null, high: 3, farHigh: null })).toEqual(['farLow', 'high']);
    expect(limitsOutOfOrder({ farLow: 1, low: 1, high: null, farHigh: null })).toEqual(['farLow', 'low']);
  });
  test('where one may begin: in order, and within what the quantity can be', () => {
    for (const [code, limits] of Object.entries(usualLimits)) {
      if (!limits) continue;
      expect(limitsOutOfOrder(limits)).toBeNull();
      const { range } = quantityOf(code as QuantityCode);
      for (const l of Object.values(limits) as (number | null)[])
        if (l !== null) {
          expect(l).toBeGreaterThanOrEqual(range[0]);
          expect(l).toBeLessThanOrEqual(range[1]);
        }
    }
    // Limits made for temperature are nonsense for humidity.
    expect(usualLimits.humidity).not.toEqual(usualLimits.airTemperature);
  });
  test('settings without limits and those with none set are the same', () => {
    const settings = {
      description: 'a',
      enabled: true,
      quantity: 'rain',
      unit: 'mm',
      measurementInterval: 60,
      storageInterval: 600,
      adjustIn: 'record',
    } as const;
    expect(settingDifferences(settings, { ...settings, farLow: null, reportingInterval: null })).toEqual([]);
    expect(settingDifferences({ ...settings, high: 3 }, settings)).toEqual([
      { field: 'high', wanted: '3', found: '–' },
    ]);
  });
});

describe('from where on a leaf counts as wet', () => {
  const grid = { margin: 50, decimals: 0, unit: 'counts' };
  test('dry counts + 50 (common practice, no source)', () => {
    expect(wetThreshold({ ...grid, dry: 430 })).toEqual({
      threshold: 480,
      sum: '430 + 50 = 480 counts',
    });
    expect(() => wetThreshold({ ...grid, dry: Number.NaN })).toThrow(RangeError);
  });
  test('rain, an old record of it and air near its dew point speak against dry', () => {
    const air = (temperature: number, humidity: number) =>
      doubtsOfDry({ rain: null, air: { temperature, humidity } });
    // WMO-No. 8: 20 °C/50 % has its dew point at 9.26 °C, 25 °C/60 % at 16.69 °C.
    expect(air(20, 50)).toEqual([]);
    expect(air(25, 60)).toEqual([]);
    expect(air(12, 95)[0]).toMatch(/^the air is near its dew point: 12\.0 − 11\.2 = 0\.8 °C$/);
    expect(doubtsOfDry({ rain: { mm: 0, unknownFor: 0.2 }, air: null })).toEqual([]);
    expect(doubtsOfDry({ rain: { mm: 0.2, unknownFor: 5 }, air: null })).toHaveLength(2);
    expect(doubtsOfDry({ rain: null, air: null })).toEqual([]);
  });
});
