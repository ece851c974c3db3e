import fc from 'fast-check';
import { convert, invert, refuseConversion } from './conversion';
import { mostPoints, tableOfCsv, type CsvTable } from './tableCsv';

const table = (text: string): CsvTable => {
  const found = tableOfCsv(text);
  if ('says' in found) throw new Error(found.says);
  return found;
};
const fault = (text: string): string => {
  const found = tableOfCsv(text);
  return 'says' in found ? `${found.says} ${found.remedy}` : 'read';
};

test('either order of columns, heads or none, kΩ and decimal commas: one table', () => {
  const asTyped = [
    '°C,Ω\n0,32650\n25,10000\n50,3603',
    'Ω;°C\r\n3603;50\r\n10000;25\r\n32650;0\r\n',
    'from the manual\nt °C\tR kΩ\n0\t32,65\n25\t10,0\n50\t3,603',
    '0,32650\n25,10000\n50,3603',
  ];
  for (const text of asTyped) {
    const { step } = table(text);
    expect(step).toMatchObject({ x: [3603, 10_000, 32_650], y: [50, 25, 0], log: true });
    expect(convert([step], 10_000)).toBeCloseTo(25, 12);
  }
  expect(table('°C,kΩ\n0,1\n1,2')).toMatchObject({ from: 'Ω', to: '°C' });
});

test('a bar of voltages is straight as it is, and says nothing beyond its ends', () => {
  const { step } = table('level m,V\n0,0.5\n2,2.5\n5,4.5');
  expect(step.log).toBe(false);
  expect(convert([step], 1.5)).toBeCloseTo(1, 12);
  expect(convert([step], 4.6)).toBeNaN();
});

test.each([
  ['', /no table of two columns/],
  ['just words', /no table of two columns/],
  ['a,b\nc,d', /No line holds two numbers/],
  ['°C,Ω\n0,100', /one point.*two points or more/],
  ['°C,Ω\n0,100\n10,', /Line 3: a number is missing/],
  ['°C,Ω\n0,100\n10,1o4', /Line 3: "1o4" is no number/],
  ['°C,Ω\n0,100\n10,104\n20,104', /Lines 3 and 4 both say what 104 is/],
  ['°C,Ω\n0,100\n20,104\n10,108', /From line 3 to line 4 the table turns back: 20, then 10.*slip of a digit/],
  [
    `x,y\n${Array.from({ length: mostPoints + 1 }, (_, i) => `${i},${i}`).join('\n')}`,
    /501 points.*Up to 500/,
  ],
])('%j is refused in words that name the line', (text, why) => {
  expect(fault(text)).toMatch(why);
});

test('whatever is typed, a table that is read converts both ways or is refused in words', () => {
  const cell = fc.oneof(
    fc.double({ min: -1e6, max: 1e6, noNaN: true }).map(String),
    fc.string({ maxLength: 6 }),
  );
  fc.assert(
    fc.property(
      fc.array(fc.tuple(cell, cell), { maxLength: 12 }),
      fc.constantFrom(...',;\t'),
      (rows, between) => {
        const found = tableOfCsv(rows.map((r) => r.join(between)).join('\n'));
        if ('says' in found) return found.says.length > 0 && found.remedy.length > 0;
        expect(refuseConversion([found.step])).toBeNull();
        const at = found.step.x[0]!;
        expect(invert([found.step], convert([found.step], at)) - at).toBeLessThanOrEqual(
          1e-6 * Math.abs(at) + 1e-9,
        );
        return true;
      },
    ),
    { seed: 5, numRuns: 500 },
  );
});
