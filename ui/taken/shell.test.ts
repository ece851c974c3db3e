import { isKept } from './shell';

/** A worker that is being installed. */
const coming = () => Object.assign(new EventTarget(), { state: 'installing' }) as unknown as ServiceWorker;
const becomes = (worker: ServiceWorker, state: ServiceWorkerState) => {
  Object.assign(worker, { state });
  worker.dispatchEvent(new Event('statechange'));
};

test('the shell is kept once its worker is at work, at once where an older one is, never where its files failed', async () => {
  const none = { active: null, waiting: null, installing: null };
  expect(await isKept(none)).toBe(false);
  expect(await isKept({ ...none, active: coming(), installing: coming() })).toBe(true);
  for (const [end, kept] of [
    ['activated', true],
    ['redundant', false],
  ] as const) {
    const worker = coming();
    const answer = isKept({ ...none, installing: worker });
    becomes(worker, 'installed');
    becomes(worker, 'activating');
    becomes(worker, end);
    expect(await answer).toBe(kept);
  }
});
