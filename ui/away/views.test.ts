import { existsSync } from 'node:fs';
import { addressesOf, of, ofNoStop } from '../taken/addresses';
import { awayViewOf, awayViews } from './views';

const stationId = '01932c07-0000-7000-8000-000000000001';
const params = { stationId, checkId: 'k1', visitId: 'v1' };

test('every view that works away is a page of the application under the same path', () => {
  for (const { path } of awayViews) expect(existsSync(`app/(signed)${path}/page.tsx`) || path).toBe(true);
});

test('what a view is drawn from is taken along with its stop', () => {
  const its = of(stationId);
  const taken = addressesOf(
    stationId,
    new Map<string, unknown>([
      [its.basics, { logger: true, bench: true, water: true }],
      [its.handOver, { last: { visitId: 'v1' } }],
      [its.checks, { channels: [{ openCheckId: 'k1' }] }],
    ]),
  );
  for (const { path, address } of awayViews)
    for (const query of path === '/field-book' ? ['', `station=${stationId}`] : [''])
      if (address)
        expect([...taken, ...ofNoStop]).toContain(
          address({ params, query: new URLSearchParams(query), stops: [] }),
        );
});

test.each([
  ['/', '/', {}],
  [`/stations/${stationId}`, '/stations/[stationId]', { stationId }],
  [`/stations/${stationId}/`, '/stations/[stationId]', { stationId }],
  [`/stations/${stationId}/check/k1`, '/stations/[stationId]/check/[checkId]', { stationId, checkId: 'k1' }],
  [`/stations/${stationId}/connect/plan`, '/stations/[stationId]/connect/plan', { stationId }],
])('%s is %s', (path, view, wanted) => {
  const found = awayViewOf(path);
  expect([found?.view.path, found?.params]).toEqual([view, wanted]);
});

test.each(['/verify', `/stations/${stationId}/record`, '/sign-in', `/stations/${stationId}/check/k1/more`])(
  '%s needs the server',
  (path) => expect(awayViewOf(path)).toBeNull(),
);
