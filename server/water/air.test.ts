import { addStation } from '@/server/administer/addStation';
import { isoAt, onPool, type Pool } from '@/test/water';
import { newId } from '../id';
import { typeReadings } from '../record/typeReadings';
import { airPressures } from './air';
import { waterView } from './view';

let pool: Pool;
onPool((made) => (pool = made));

const typed = (
  stationId: string,
  zoneName: string,
  values: readonly (readonly [hours: number, hPa: number])[],
) =>
  typeReadings(pool.at(), stationId, {
    readingsId: newId(),
    channel: { kind: 'new', quantity: 'airPressure', zoneName },
    unit: 'hPa',
    readings: values.map(([hours, value]) => ({ at: isoAt(hours), value })),
  });

test('barometers are offered as they read of late, those of the site first; old ones are not', async () => {
  const now = pool.at().now().getTime();
  expect(await airPressures(pool.test_.db, pool.stationId, now)).toEqual([]);
  const { stationId: far } = await addStation(
    { ...pool.at(-1100), person: pool.bench.people.administrator },
    { site: { name: 'Another Moss', zone: 'Etc/UTC' }, code: 'AAA-1', name: 'First by its code' },
  );
  await typed(far, 'Hut', [[-1, 1009.4]]);
  await typed(pool.stationId, 'Mast', [
    [-2, 1011.1],
    [-0.5, 1012.345],
  ]);
  await typed(pool.stationId, 'Cellar', [[-4, 1015]]);
  const found = [
    { code: 'POOL-1', zone: 'Mast', at: isoAt(-0.5), value: 1012.35 },
    { code: 'AAA-1', zone: 'Hut', at: isoAt(-1), value: 1009.4 },
  ];
  expect(await airPressures(pool.test_.db, pool.stationId, now)).toEqual(found);
  expect((await waterView(pool.at(), pool.stationId)).air).toEqual(found);
});
