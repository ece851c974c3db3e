import { procedureCodes } from '@/core/procedure/codes';
import { clearSky, sunElevation } from '@/core/radiation/sun';
import { demoState, placeName } from '@/simulator/scenario';
import { scenarioStations } from '@/simulator/scenarioStations';
import { truthAt } from '@/simulator/sensorValue';
import { checksMade, cloudlessNoons, procedureMade } from './historyChecksMade';

/** What the demo lived through: nothing of the trade is missing in it. */

test('every procedure has a place in the scenario and a check in its past', () => {
  const used = new Set(checksMade.map(procedureMade));
  expect(procedureCodes.filter((code) => !used.has(code))).toEqual([]);
});

test('each is made where a sensor hangs, by instruments the stand has', () => {
  const zones = scenarioStations
    .filter((s) => !s.unregistered)
    .flatMap((s) => s.sensors.filter((x) => !x.unregistered).map((x) => placeName(s.code, x.zone)));
  expect(zones).toEqual(expect.arrayContaining(checksMade.map((c) => placeName(c.station, c.zone))));
  const serials = demoState(0, 0).handhelds.map((h) => h.serial);
  expect(serials).toEqual(expect.arrayContaining(checksMade.flatMap((c) => c.instrument ?? [])));
});

describe('a cloudless noon', () => {
  const atNoon = (now: number) => cloudlessNoons(demoState(now, 0), now);
  test('after a summer there is one, with the sun high and nothing before it', () => {
    const now = Date.UTC(2026, 8, 15, 8);
    const [noon] = atNoon(now);
    expect(now - noon!).toBeGreaterThan(11 * 86_400_000);
    const elevation = sunElevation(noon! / 1000, 57.412, -17.331);
    expect(elevation).toBeGreaterThan(31);
    const shines = truthAt(demoState(now, 0), placeName('MOSS-2', 'Mast 2 m'), 'radiation', noon!);
    expect(shines).toBeCloseTo(clearSky(elevation), 0);
  });
  test('after a winter there is none: the sun stood too low for it to say anything', () => {
    expect(atNoon(Date.UTC(2026, 1, 20, 8))).toEqual([]);
  });
});
