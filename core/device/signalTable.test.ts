import { shippedProfile } from '@/catalogue/profiles';
import { refuseTable, signalTable, signalTableCsv, valueOf } from './signalTable';

const prt = shippedProfile('noust-p3')!;
const output = prt.outputs[0]!;
const thermistor = shippedProfile('brough-n1')!;

test('a Pt100 by IEC 60751, with the band of its class', () => {
  const { rows, signalUnit, says } = signalTable(prt.connection, output, -40, 100, 10);
  expect([rows.length, signalUnit]).toEqual([15, 'Ω']);
  const at = (value: number) => rows.find((r) => r.value === value)!;
  // IEC 60751: −40 °C 84.27 Ω, 0 °C 100.00, 50 °C 119.40, 100 °C 138.51.
  for (const [value, ohms] of [
    [-40, 84.27],
    [0, 100],
    [50, 119.4],
    [100, 138.51],
  ] as const)
    expect(at(value).signal).toBeCloseTo(ohms, 2);
  // Class B at 0 °C: ± 0.30 °C are ± 0.12 Ω.
  expect(at(0).band[0]).toBeCloseTo(99.88, 2);
  expect(at(0).band[1]).toBeCloseTo(100.12, 2);
  expect(says).toContain('platinum, 100 Ω at 0 °C');
});

test('a thermistor falls: its band rises all the same, and steps keep their digits', () => {
  const { rows } = signalTable(thermistor.connection, thermistor.outputs[0]!, 0, 1, 0.1);
  expect(rows.map((r) => r.value)).toEqual([0, 0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7, 0.8, 0.9, 1]);
  for (const { band, signal } of rows) {
    expect(band[0]).toBeLessThan(signal);
    expect(band[1]).toBeGreaterThan(signal);
  }
  const csv = signalTableCsv(signalTable(thermistor.connection, thermistor.outputs[0]!, 20, 25, 5), '°C');
  expect(csv.split('\n')[0]).toBe('value °C,signal Ω,low Ω,high Ω');
  expect(csv.split('\n')[2]).toMatch(/^25,\d+\.?\d*,\d+\.?\d*,\d+\.?\d*$/);
});

test('what no table can be is refused in words', () => {
  const says = (from: number, until: number, step: number) => refuseTable(output, from, until, step);
  expect(says(0, 50, 1)).toBeNull();
  expect(says(0, 50, 0)).toMatch(/leads nowhere/);
  expect(says(0, 50, Number.NaN)).toMatch(/leads nowhere/);
  expect(says(50, 0, 1)).toMatch(/let it rise/);
  expect(says(-300, 0, 1)).toMatch(/states nothing/);
  expect(says(0, 50, 0.001)).toMatch(/50001 lines, 1000 at most/);
  expect(() => signalTable(prt.connection, output, 0, 50, -1)).toThrow('leads nowhere');
});

test('type ohms, read °C, with what the meter means there', () => {
  // IEC 60751: 109.73 Ω are 25 °C; 0.38 Ω a kelvin there.
  const found = valueOf(output, 109.73, 0.38)!;
  expect(found.value).toBeCloseTo(24.99, 1);
  expect(found.u).toBeCloseTo(1, 1);
  expect(found.isInRange).toBe(true);
  expect(valueOf(output, 200, 0.1)!.isInRange).toBe(false);
  expect(valueOf(output, 1, 0.1)).toBeNull();
});
