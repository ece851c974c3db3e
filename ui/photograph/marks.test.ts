import { arrowHead, markPath, nextLetter, type Mark } from './marks';

const arrow: Mark = { kind: 'arrow', from: { x: 0, y: 0.5 }, to: { x: 0.5, y: 0.5 } };

test('an arrow points where it was dragged to, its barbs behind the tip and alike on both sides', () => {
  const [tip, left, right] = arrowHead({ x: 0, y: 100 }, { x: 200, y: 100 }, 30);
  expect(tip).toEqual({ x: 200, y: 100 });
  expect(left.x).toBeCloseTo(right.x, 9);
  expect(left.x).toBeLessThan(200);
  expect(left.y - 100).toBeCloseTo(100 - right.y, 9);
  expect(Math.hypot(left.x - 200, left.y - 100)).toBeCloseTo(30, 9);
  expect(markPath(arrow, 400, 200)).toMatch(/^M0 100 L200 100 M/);
});

test('a ring is drawn about the middle of what was dragged, whichever corner it was begun at', () => {
  const ring = (from: [number, number], to: [number, number]): Mark => ({
    kind: 'ring',
    from: { x: from[0], y: from[1] },
    to: { x: to[0], y: to[1] },
  });
  const path = markPath(ring([0.25, 0.25], [0.75, 0.75]), 400, 200);
  expect(path).toBe('M100 100 a100 50 0 1 0 200 0 a100 50 0 1 0 -200 0');
  expect(markPath(ring([0.75, 0.75], [0.25, 0.25]), 400, 200)).toBe(path);
});

test('letters follow each other, and begin again after Z', () => {
  const letter: Mark = { kind: 'letter', at: { x: 0, y: 0 }, letter: 'A' };
  expect(nextLetter([])).toBe('A');
  expect(nextLetter([arrow, letter])).toBe('B');
  expect(nextLetter(Array.from({ length: 26 }, () => letter))).toBe('A');
  expect(markPath(letter, 400, 200)).toBeNull();
});
