import { clearSky, sunElevation } from './sun';

const at = (...utc: Parameters<typeof Date.UTC>) => Date.UTC(...utc) / 1000;

test('the example of the solar position algorithm of Reda & Andreas (2004): zenith 50.11°', () => {
  // 17 October 2003, 12:30:30 at UTC−7; 39.742476° N, 105.1786° W; topocentric, with refraction, from memory.
  expect(90 - sunElevation(at(2003, 9, 17, 19, 30, 30), 39.742476, -105.1786)).toBeCloseTo(50.11, 1);
});

test('at the solstice noon of the tropic it stands overhead; at the pole of June it circles at 23.4°', () => {
  const noon = Array.from({ length: 97 }, (_, i) => at(2026, 5, 21, 10) + 150 * i);
  expect(Math.max(...noon.map((t) => sunElevation(t, 23.44, 0)))).toBeGreaterThan(89.8);
  for (const hour of [0, 6, 12, 18]) expect(sunElevation(at(2026, 5, 21, hour), 90, 0)).toBeCloseTo(23.44, 1);
  expect(sunElevation(at(2026, 2, 20, 12, 7), 0, 0)).toBeGreaterThan(89);
});

test('Haurwitz under a clear sky: 1 037 W/m² overhead, half way down 706, nothing below the horizon', () => {
  expect(clearSky(90)).toBeCloseTo(1037.2, 0);
  // 1098 · sin 45° · exp(−0.057 / sin 45°), by hand
  expect(clearSky(45)).toBeCloseTo(716.3, 0);
  expect(clearSky(0)).toBe(0);
  expect(clearSky(-20)).toBe(0);
  expect(() => clearSky(120)).toThrow('elevation');
  expect(() => sunElevation(0, 91, 0)).toThrow('latitude');
  expect(() => sunElevation(0, 0, 200)).toThrow('longitude');
});
