import { differenceCiede2000 } from 'culori';
import { alikeBelow, confusable, lampDistance, leadHex, leadStripe } from './leadColour';

test('the distance is CIEDE2000 (Sharma, Wu & Dalal 2005, table 1, pairs 1 and 25)', () => {
  const at = (l: number, a: number, b: number) => ({ mode: 'lab65' as const, l, a, b });
  const between = differenceCiede2000();
  expect(between(at(50, 2.6772, -79.7751), at(50, 0, -82.7485))).toBeCloseTo(2.0425, 4);
  expect(between(at(60.2574, -34.0099, 36.2677), at(60.4626, -34.1751, 39.4387))).toBeCloseTo(1.2644, 4);
});

test('under the lamp people take for one another what they are known to (common practice, no source)', () => {
  for (const [a, b] of [
    ['red', 'brown'],
    ['red', 'orange'],
    ['white', 'yellow'],
    ['blue', 'black'],
    ['cream', 'white'],
    ['copper', 'russet'],
  ] as const)
    expect([a, b, lampDistance(a, b) < alikeBelow]).toEqual([a, b, true]);
  for (const [a, b] of [
    ['green', 'blue'],
    ['red', 'black'],
    ['red', 'green'],
    ['white', 'black'],
    ['yellow', 'blue'],
  ] as const)
    expect([a, b, lampDistance(a, b) > alikeBelow]).toEqual([a, b, true]);
});

test('the same in either order, nothing to itself', () => {
  expect(lampDistance('red', 'brown')).toBeCloseTo(lampDistance('brown', 'red'), 9);
  expect(lampDistance('teal', 'teal')).toBe(0);
});

test('a stripe tells apart what its ground would not', () => {
  expect(lampDistance('white/red', 'white/black')).toBeGreaterThan(lampDistance('white', 'ivory'));
  expect(confusable(['white', 'white/black'])).toEqual([]);
  expect([leadHex('white/red'), leadStripe('white/red'), leadStripe('white')]).toEqual([
    leadHex('white'),
    leadHex('red'),
    null,
  ]);
});

test('pairs of one cable, a bare lead never among them', () => {
  expect(confusable(['brown', 'white', 'green', 'yellow', 'bare']).map((p) => `${p.a} ${p.b}`)).toEqual([
    'white yellow',
  ]);
  expect(confusable(['tan', 'bare'])).toEqual([]);
});
