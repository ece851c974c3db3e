import { numbersOf, passageOf, sheetOf, verticalsOf } from './gaugingDraft';

test('rows are read as they are pasted', () => {
  expect(numbersOf('0 0 0\n1;0,5;0,30\n\n2\t0.9\t−0.55')).toEqual([
    [0, 0, 0],
    [1, 0.5, 0.3],
    [2, 0.9, -0.55],
  ]);
  expect(numbersOf('1 deep')).toBeNull();
  expect(verticalsOf('0 0 0\n1 0.5 0.3 2')).toEqual([
    { across: 0, depth: 0, velocity: 0, depths: 1 },
    { across: 1, depth: 0.5, velocity: 0.3, depths: 2 },
  ]);
  expect(verticalsOf('0 0')).toBeNull();
  expect(verticalsOf('1 0.5 0.3 4')).toBeNull();
  expect(passageOf('0 2\n10 12')).toEqual([
    { at: 0, concentration: 2 },
    { at: 10, concentration: 12 },
  ]);
  expect(passageOf('0 2 3')).toBeNull();
});
test('a vertical measured in several depths has its mean worked out', () => {
  // ISO 748: of two their mean, of three the middle one twice.
  expect(verticalsOf('1.0;0.50;0.36/0.24')).toEqual([
    { across: 1, depth: 0.5, velocity: 0.3, depths: 2, velocities: [0.36, 0.24] },
  ]);
  const [of3] = verticalsOf('1 0.5 0,5/0,4/0,1')!;
  expect(of3).toMatchObject({ depths: 3, velocities: [0.5, 0.4, 0.1] });
  expect(of3!.velocity).toBeCloseTo(0.35, 12);
  expect(verticalsOf('1 0.5 −0.5/−0.4/−0.4/−0.3/−0.2')![0]!.velocity).toBeCloseTo(-0.37, 12);
  // Said twice, it has to agree; nobody measures in four.
  expect(verticalsOf('1 0.5 0.36/0.24 2')).not.toBeNull();
  expect(verticalsOf('1 0.5 0.36/0.24 3')).toBeNull();
  expect(verticalsOf('1 0.5 0.4/0.3/0.2/0.1')).toBeNull();
  expect(verticalsOf('1 0.5 0.36/deep')).toBeNull();
});
test('a sheet is whole or none', () => {
  const draft = (kind: 'rate' | 'slug' | 'stated' | 'verticals', typed: Record<string, string>) =>
    sheetOf({ kind, method: 'mid', typed });
  const rate = { rate: '0,05', fed: '100000', plateau: '12', background: '2', U: '5' };
  expect(draft('rate', rate)).toEqual({
    kind: 'rate',
    rate: 0.05,
    fed: 100_000,
    plateau: 12,
    background: 2,
    U: 0.05,
  });
  expect(draft('rate', { ...rate, fed: '' })).toBeNull();
  expect(draft('stated', { discharge: '−4.2', U: '5', by: ' profiler ' })).toMatchObject({
    discharge: -4.2,
    by: 'profiler',
  });
  expect(draft('stated', { discharge: '4.2', U: '5' })).toBeNull();
  expect(draft('slug', { mass: '1000', background: '1', U: '5', rows: '0 1\n100 5' })).toMatchObject({
    kind: 'slug',
  });
  expect(draft('verticals', { rows: '' })).toBeNull();
  expect(draft('verticals', { rows: '0 0 0' })).toMatchObject({ method: 'mid' });
});
