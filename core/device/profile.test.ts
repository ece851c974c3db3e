import { shippedProfile } from '@/catalogue/profiles';
import {
  outputAccuracy,
  outputInSentence,
  outputName,
  outputOf,
  outputPath,
  outputTolerance,
  refuseProfile,
  registerSpans,
  unknownProfile,
  type SensorOutput,
  type SensorProfile,
} from './profile';
import type { RegisterField } from './registerField';

const th3 = shippedProfile('quern-th3')!;
const humidity = outputOf(th3, 'humidity')!;
const at = (address: number, change: Partial<RegisterField> = {}): SensorOutput => ({
  ...humidity,
  key: `at${address}`,
  label: `${address}`,
  field: { ...humidity.field, address, ...change },
});

describe('what is asked of a sensor', () => {
  const spans = (...outputs: SensorOutput[]) =>
    registerSpans(outputs).map((s) => `${s.fn}: ${s.address} × ${s.count}`);
  test('registers side by side in one request, whatever order they are named in', () => {
    expect(spans(at(2), at(0), at(1))).toEqual(['4: 0 × 3']);
    expect(spans(at(10, { type: 'float32' }), at(12))).toEqual(['4: 10 × 3']);
  });
  test('not over a gap, nor over two functions', () => {
    expect(spans(at(0), at(2))).toEqual(['4: 0 × 1', '4: 2 × 1']);
    expect(spans(at(0, { fn: 3 }), at(1))).toEqual(['3: 0 × 1', '4: 1 × 1']);
  });
  test('125 registers at most (MODBUS Application Protocol V1.1b3, 6.4)', () => {
    expect(spans(...Array.from({ length: 130 }, (_, i) => at(i)))).toEqual(['4: 0 × 125', '4: 125 × 5']);
    // A number of two words is not torn apart.
    const doubles = Array.from({ length: 64 }, (_, i) => at(2 * i, { type: 'int32' }));
    expect(spans(...doubles)).toEqual(['4: 0 × 124', '4: 124 × 4']);
  });
});

test('an output says what it is, how good, and how it is read', () => {
  expect(outputName(humidity)).toBe('Humidity');
  expect(outputInSentence(humidity)).toBe('humidity');
  expect(outputInSentence({ quantity: 'ph', label: 'at 20 cm' })).toBe('pH at 20 cm');
  expect(outputAccuracy(humidity)).toBe('±2 %RH');
  expect(outputPath(humidity)).toBe('register 1 ÷ 100 → %RH');
  const share = { ...humidity, accuracy: { absolute: 1, ofReading: 0.01, ofRange: 0 } };
  expect(outputTolerance(share, 40)).toBeCloseTo(1.4, 12);
  // Of nothing known, the middle of its range.
  expect(outputTolerance(share, null)).toBeCloseTo(1.5, 12);
  expect(outputOf(th3, 'wind')).toBeNull();
});

test('of an unknown profile nothing is assumed', () => {
  const unknown = unknownProfile('quern-th9', 3);
  expect(unknown.outputs).toEqual([]);
  expect(registerSpans(unknown.outputs)).toEqual([]);
});

test.each<[string, Partial<SensorProfile>, string, RegExp]>([
  [
    'a supply outside its limits',
    { supply: { low: 9, high: 28, preferred: 30 } },
    'supply',
    /30 V lie outside 9 to 28 V/,
  ],
  ['two leads of a colour', { leads: [...th3.leads, th3.leads[0]!] }, 'leads', /Two leads are brown/],
  ['nothing measured', { outputs: [] }, 'outputs', /measures nothing/],
  [
    'two outputs of a key',
    { outputs: [humidity, { ...humidity, label: 'low' }] },
    'outputs',
    /the key humidity/,
  ],
  [
    'two of a name',
    { outputs: [humidity, { ...humidity, key: 'other' }] },
    'outputs',
    /Two outputs are Humidity/,
  ],
  ['a range that falls', { outputs: [{ ...humidity, range: [100, 0] }] }, 'outputs.0.range', /does not rise/],
  ['a register too far', { outputs: [at(65_536)] }, 'outputs.0.field', /at65536: address 65536 is outside/],
  [
    'a conversion by 0',
    { outputs: [{ ...humidity, conversion: [{ step: 'divide', by: 0 }] }] },
    'outputs.0.conversion',
    /humidity: step 1 \(divide\)/,
  ],
])('%s is refused by name', (_name, change, field, detail) => {
  const refused = refuseProfile({ ...th3, ...change });
  expect(refused).toMatchObject({ field });
  expect(refused!.detail).toMatch(detail);
});
