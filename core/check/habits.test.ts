import { habitNames, readBy } from './habits';

test('a habit touches what it would touch, and leaves the rest true', () => {
  expect(readBy('breathed', 'co2', 420, null)).toBe(680);
  expect(readBy('breathed', 'waterTemperature', 9, null)).toBe(9);
  expect(readBy('shaken', 'turbidity', 3, null)).toBe(9);
  expect(readBy('shaken', 'ph', 7, null)).toBe(7);
  // A third of the way from a pocket of 27 °C is still to go.
  expect(readBy('too-early', 'airTemperature', 17, null)).toBeCloseTo(20.5, 9);
  expect(readBy('wrong-zone', 'humidity', 55, 48)).toBe(48);
  expect(readBy('wrong-zone', 'humidity', 55, null)).toBe(55);
  for (const habit of habitNames) expect(readBy(habit, 'signal', 1, 1)).toBe(1);
});
