import { rows } from '@/db/database';
import { begin, bench, close, minute, onChecks, test_, threeOf, view, wait } from '@/test/onChecks';
import { newId } from '../id';
import { addDerived } from '../record/addDerived';

/** What an adjustment changes beside the channel itself. */
onChecks();

test('what is derived from a channel is named before it is adjusted; where nothing is proposed, nothing is', async () => {
  const channels = await rows(test_.db.channel, { where: { stationId: bench.stationId } });
  const idOf = (quantity: string) => channels.find((c) => c.quantity === quantity)!.id;
  await addDerived(bench.at(wait(minute)), bench.stationId, {
    channelId: newId(),
    formula: 'dewPoint',
    zoneName: 'Lantern room',
    inputs: { temperature: idOf('airTemperature'), humidity: idOf('humidity') },
    parameters: {},
  });
  const good = await begin('temperature', { school: 'gum' });
  await threeOf(good, 'airTemperature');
  expect(await view(good)).toMatchObject({ proposed: null, consequences: null });
  await close(good);
  bench.logger.sensors[0]!.truths.airTemperature = { bias: 0.8, noise: 0.004 };
  const off = await begin('temperature', { school: 'gum' });
  await threeOf(off, 'airTemperature');
  const { proposed, consequences } = await view(off);
  expect(proposed).toBeCloseTo(-0.8, 1);
  expect(consequences).toEqual({ derived: ['Lantern room dew point'], crossed: [] });
});
