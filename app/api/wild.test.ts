import { everyHostileRoute, wildRequests, type WildRequest } from '@/test/hostile';
import type { TestBench } from '@/test/bench';
import type { Connected } from '@/test/onBench';
import { call, onRoutes, origin } from '@/test/onRoutes';
import { everyRoute } from '@/test/routeFiles';
import { thorough } from '@/test/thorough';

/** Thousands of hostile requests to the handlers: each is refused in a sentence or answered; none is our fault. */
let bench: TestBench;
let ids: Connected;
onRoutes((made) => ({ bench, ids } = made));

const requests = thorough(20_000, 6_000);
const decoded = (places: Record<string, string>): Record<string, string> | null => {
  try {
    return Object.fromEntries(Object.entries(places).map(([k, v]) => [k, decodeURIComponent(v)]));
  } catch {
    // Refused by the server before a handler sees it, see scripts/requestRules.mjs.
    return null;
  }
};

test('every method of every route is among what is sent, but signing out', () =>
  expect([...everyHostileRoute(), 'DELETE v1/session'].sort()).toEqual(everyRoute()));

test(`${requests} of them: 0 × 500`, async () => {
  const wild = wildRequests(20_261_125, {
    stationId: bench.stationId,
    channelId: ids.temperature,
    installationId: ids.installationId,
    origin,
  });
  const statuses = new Map<number, number>();
  const bad: string[] = [];
  let sent = 0;
  let after = 0;
  const one = async ({ method, path, route, params, body, headers }: WildRequest) => {
    const places = decoded(params);
    if (!places) return;
    const query = path.includes('?') ? path.slice(path.indexOf('?')) : '';
    const response = await call({
      method: method as 'GET',
      path: route,
      query,
      params: places,
      body,
      headers,
      role: 'technician',
    });
    statuses.set(response.status, (statuses.get(response.status) ?? 0) + 1);
    const text = response.status === 304 ? '' : await response.text();
    if (response.status >= 500)
      bad.push(`${response.status} ${method} ${path.slice(0, 160)} ${String(body ?? '').slice(0, 200)}`);
    else if (response.status >= 400) {
      const { detail, remedy, code } = JSON.parse(text) as {
        detail?: string;
        remedy?: string;
        code?: string;
      };
      if (!detail || !remedy || !code)
        bad.push(`no sentence: ${method} ${path.slice(0, 160)} ${text.slice(0, 200)}`);
    }
  };
  await Promise.all(
    Array.from({ length: 8 }, async () => {
      while (sent < requests) {
        sent++;
        if (sent === requests / 2) after = memory();
        await one(wild.next().value as WildRequest);
      }
    }),
  );
  expect(bad.slice(0, 12)).toEqual([]);
  expect([...statuses.values()].reduce((n, m) => n + m, 0)).toBeGreaterThan(0.9 * requests);
  // All kinds of answers came, not one refusal for everything.
  for (const status of [200, 201, 403, 404, 405, 409, 413, 422])
    expect(statuses.get(status) ?? 0).toBeGreaterThan(requests / 1000);
  expect(memory() - after).toBeLessThan(250);
}, 600_000);

const memory = () => {
  globalThis.gc?.();
  return process.memoryUsage().heapUsed / 1024 / 1024;
};
