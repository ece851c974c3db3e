import { refuseCircuit, type CircuitElement, type MeasuringPoint } from './circuit';

const part = (id: string, from: string, to: string, more: Partial<CircuitElement> = {}): CircuitElement => ({
  id,
  kind: 'fixed',
  from,
  to,
  ohms: 100,
  tolerance: 0,
  hop: 'element',
  ...more,
});
const point = (node: string): MeasuringPoint => ({
  node,
  name: node.toUpperCase(),
  colour: null,
  at: 'terminal',
});
const says = (elements: CircuitElement[], points = ['a', 'b']) =>
  refuseCircuit({ elements, points: points.map(point) }).map((f) => `${f.field} ${f.says}`);

test('what cannot be is said of each element, with what to do', () => {
  expect(says([part('R1', 'a', 'b')])).toEqual([]);
  for (const ohms of [0, -5, Number.NaN, Infinity])
    expect(says([part('R1', 'a', 'b', { ohms })])).toEqual([`R1 ${ohms} Ω is no resistor`]);
  expect(says([part('L1', 'a', 'b', { kind: 'link', ohms: 3 })])).toEqual(['L1 3 Ω is no link']);
  expect(says([part('R1', 'a', 'a'), part('R1', 'a', 'b')])).toEqual([
    'R1 begins and ends at a',
    'R1 stands twice',
  ]);
  expect(says([part('R1', 'a', 'b', { tolerance: 1 })])).toEqual(['R1 a tolerance of ±100 % cannot be']);
  for (const fault of refuseCircuit({ elements: [part('R1', 'a', 'a', { ohms: -1 })], points: [] }))
    expect(fault.remedy).toMatch(/\.$/);
});

test('points that are one, that nothing is joined to, and parts that no point leads to', () => {
  const joined = [part('R1', 'a', 'b'), part('L1', 'b', 'c', { kind: 'link', ohms: 0 })];
  expect(says(joined, ['a', 'b', 'c'])).toEqual(['C is one point with B']);
  expect(says([{ ...joined[0]! }, { ...joined[1]!, ohms: Infinity }], ['a', 'b', 'c'])).toEqual([]);
  expect(says([part('R1', 'a', 'b')], ['a', 'b', 'z'])).toEqual(['Z nothing is joined to it']);
  expect(says([part('R1', 'a', 'b'), part('R2', 'x', 'y')])).toEqual(['R2 no point leads to it']);
  expect(says([part('R1', 'a', 'b')], ['a'])).toEqual(['points a meter needs two points']);
  expect(says([], [])).toEqual(['points a meter needs two points']);
});
