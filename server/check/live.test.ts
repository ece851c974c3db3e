import { call, onRoutes } from '@/test/onRoutes';
import { begin, elsewhere } from '@/test/onChecks';
import type { Connected, Made } from '@/test/onBench';

/** What one look at the live values costs, and what it answers. */
let made: Made & { ids: Connected };
onRoutes((m) => (made = m));

test('a live poll costs three queries at most: the session, and the check with all it needs', async () => {
  let checkId = '';
  await elsewhere(made, async () => {
    checkId = await begin('temperature');
  });
  const { options } = made.test_.db.sequelize as unknown as { options: { logging: unknown } };
  const asked: string[] = [];
  options.logging = (sql: string) => asked.push(sql);
  const answer = await call({
    method: 'GET',
    path: 'v1/stations/[stationId]/checks/[checkId]/live',
    params: { stationId: made.bench.stationId, checkId },
    role: 'technician',
  });
  options.logging = false;
  expect(answer.status).toBe(200);
  expect(await answer.json()).toMatchObject({ value: expect.any(Number) as number });
  expect(asked).toHaveLength(2);
});
