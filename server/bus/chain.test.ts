import { bookTexts, present, refusal } from '@/test/bench';
import { onStation, type OnStation } from '@/test/onStation';
import { newId } from '../id';
import { discoverChain } from './chain';
import { consoleView } from './consoleView';

/** Daisy chains, against the stand: the rack line, plugged one after the other. */
let racks: OnStation;
onStation('KELP-2', (made) => (racks = made));
let minutes = 0;
const look = (port = 'Line 1', actionId = newId()) => {
  minutes += 1;
  return discoverChain(racks.at(minutes), racks.stationId, { actionId, port });
};

test('the built-in one is named as that, and nothing is new at the first look', async () => {
  const plugged = racks.logger.sensors.splice(1);
  const first = await look();
  expect(first.units.map((u) => [u.unit, u.builtIn, u.isNew])).toEqual([
    ['HH1-0033-0', true, false],
    ['A1-1180', false, false],
  ]);
  expect(first).toMatchObject({ counted: 2, most: 12 });
  racks.logger.sensors.push(...plugged);
});
test('plugged one after the other, each look shows which is new', async () => {
  const second = await look();
  expect(second.units.filter((u) => u.isNew).map((u) => u.unit)).toEqual(['A1-1181', 'A1-1182']);
  expect((await look()).units.some((u) => u.isNew)).toBe(false);
});
test('one unit that counts as two says so', async () => {
  expect(await look('Line 2')).toMatchObject({
    units: [{ unit: 'M2-0044', counts: 2, zoneName: null }],
    counted: 2,
  });
});
test('the console shows the last look; the book has them all', async () => {
  const view = await consoleView(racks.test_.db, racks.stationId, new Date(present));
  expect(view.chains.map((c) => [c.port, c.last.units.length])).toEqual([
    ['Line 1', 4],
    ['Line 2', 1],
  ]);
  expect((await bookTexts(racks.test_.db, racks.stationId)).at(-1)).toBe(
    'Looked who hangs on Line 2: M2-0044',
  );
});
test('a port that is no chain, and a logger that is away, are said', async () => {
  expect(await refusal(look('Inputs'))).toMatchObject({
    field: 'port',
    detail: '"Inputs" is no daisy chain of this logger.',
  });
  await racks.stand.close();
  expect(await look()).toMatchObject({ says: expect.stringMatching(/nothing listens at/), units: [] });
});
