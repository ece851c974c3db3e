import { expect, test } from '@playwright/test';
import http from 'node:http';
import { wildRequests, type WildRequest } from '@/test/hostile';
import { liveMemory } from './heap';
import { signIn, stationId, url } from './steps';

/**
 * Whatever is sent through the server itself, pages too: an answer, never a fault, never silence, and no
 * memory that grows. 20 000 more go to the handlers in app/api/wild.test.ts; WILD_REQUESTS asks for more here.
 */
const requests = Number(process.env.WILD_REQUESTS ?? 1500);

test('hostile requests: no 500, no dropped socket, memory flat', async ({ browser }) => {
  const page = await browser.newPage();
  await signIn(page);
  const station = await stationId(page, 'ARCH-1');
  const { paths, installations } = await page.evaluate(async (id) => {
    const load = async (what: string) =>
      (await (await fetch(`/api/v1/stations/${id}${what}`)).json()) as never;
    return {
      ...((await load('')) as { paths: { channelId: string }[] }),
      ...((await load('/connect')) as { installations: { id: string }[] }),
    };
  }, station);
  const cookie = (await page.context().cookies()).map((c) => `${c.name}=${c.value}`).join('; ');
  await page.close();
  const wild = wildRequests(
    20_261_125,
    {
      stationId: station,
      channelId: paths[0]!.channelId,
      installationId: installations[0]!.id,
      origin: url(),
    },
    0.12,
  );
  const agent = new http.Agent({ keepAlive: true, maxSockets: 12 });
  const statuses = new Map<number, number>();
  const bad: string[] = [];
  const send = ({ method, path, body, headers, page: asPage }: WildRequest) =>
    new Promise<void>((resolve) => {
      const request = http.request(
        url(),
        {
          method,
          path,
          agent,
          headers: {
            ...headers,
            cookie,
            ...(body !== undefined && { 'content-length': Buffer.byteLength(body) }),
          },
        },
        (response) => {
          let text = '';
          response.on('data', (d: Buffer) => text.length < 2000 && (text += d.toString()));
          response.on('end', () => {
            const status = response.statusCode!;
            statuses.set(status, (statuses.get(status) ?? 0) + 1);
            if (status >= 500)
              bad.push(
                `${status} ${method} ${path.slice(0, 200)} ${String(body ?? '').slice(0, 200)} → ${text.slice(0, 120)}`,
              );
            // A refusal of the API has its sentence and its remedy.
            else if (
              status >= 400 &&
              !asPage &&
              response.headers['content-type'] === 'application/problem+json'
            ) {
              const problem = JSON.parse(text) as { detail?: string; remedy?: string };
              if (!problem.detail || !problem.remedy) bad.push(`no sentence: ${text}`);
            }
            resolve();
          });
        },
      );
      request.on('error', (error: NodeJS.ErrnoException) => {
        bad.push(`${error.code} ${method} ${path.slice(0, 200)} ${String(body ?? '').length}`);
        resolve();
      });
      if (body !== undefined) request.write(body);
      request.end();
    });
  let sent = 0;
  const worker = async (until: number) => {
    while (sent < until) {
      sent++;
      await send(wild.next().value as WildRequest);
    }
  };
  const sendUntil = (until: number) => Promise.all(Array.from({ length: 12 }, () => worker(until)));
  // By then every route was loaded and every cache has its size.
  await sendUntil(requests / 4);
  const after = await liveMemory();
  await sendUntil(requests);
  const end = await liveMemory();
  agent.destroy();
  expect(bad.slice(0, 10)).toEqual([]);
  const all = [...statuses.values()].reduce((n, m) => n + m, 0);
  expect(all).toBe(requests);
  console.log(
    `${all} answers: ${[...statuses]
      .sort((a, b) => a[0] - b[0])
      .map(([s, n]) => `${n} × ${s}`)
      .join(', ')}; ` + `${after.toFixed(1)} MB live after a quarter, ${end.toFixed(1)} MB at the end`,
  );
  expect(end - after).toBeLessThan(30);
});
