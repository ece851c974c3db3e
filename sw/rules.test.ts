import { answerPage, ruleFor, type PageSources } from './rules';

const origin = 'https://cairn.example';
const asked = (url: string, more: Partial<Request> = {}) => ({
  method: 'GET',
  mode: 'navigate' as RequestMode,
  headers: new Headers(),
  url,
  ...more,
});

test.each([
  ['a file of the application', asked(`${origin}/_next/static/chunks/a.js`, { mode: 'no-cors' }), 'file'],
  ['a page', asked(`${origin}/stations/1?x=2`), 'page'],
  [
    'a part of a page',
    asked(`${origin}/kit?_rsc=1`, { mode: 'cors', headers: new Headers({ rsc: '1' }) }),
    'part',
  ],
  ['what holds data', asked(`${origin}/api/v1/round`, { mode: 'cors' }), 'pass'],
  ['a picture opened by itself', asked(`${origin}/api/v1/stations/1/photographs/2?size=large`), 'pass'],
  ['a form that is sent', asked(`${origin}/sign-in`, { method: 'POST' }), 'pass'],
  ['another origin', asked('https://elsewhere.example/'), 'pass'],
])('%s', (_, request, rule) => expect(ruleFor(request, origin)).toBe(rule));

const page = (text: string, status = 200) => new Response(text, { status });
/** Sources whose network answers, fails or hangs; the wait ends at once. */
const sources = (network: () => Promise<Response>, more: Partial<PageSources> = {}): PageSources => ({
  network,
  shell: () => Promise.resolve(page('shell')),
  holds: () => Promise.resolve(true),
  // After whatever the network answers at once.
  wait: () => new Promise((resolve) => setTimeout(resolve, 5)),
  ...more,
});
const fails = () => Promise.reject(new TypeError('Failed to fetch'));
const slow = () => new Promise<Response>((resolve) => setTimeout(() => resolve(page('network')), 40));
const holdsNothing = { holds: () => Promise.resolve(false) };
const cannotLook = { holds: () => Promise.reject(new Error('no store')) };
const noShell = { shell: () => Promise.resolve(undefined) };

test.each([
  ['answers', sources(() => Promise.resolve(page('network'))), false, 'network'],
  ['fails', sources(fails), false, 'shell'],
  ['fails, and nothing is held', sources(fails, holdsNothing), false, 'shell'],
  ['takes too long', sources(slow), false, 'shell'],
  ['takes long, and nothing is held', sources(slow, holdsNothing), false, 'network'],
  ['takes long, and the store cannot be opened', sources(slow, cannotLook), false, 'network'],
  ['takes long while a page is loaded anew', sources(slow), true, 'network'],
  ['takes too long, and the shell is gone', sources(slow, noShell), false, 'network'],
  [
    'is a gateway that lost the application',
    sources(() => Promise.resolve(page('gateway', 502))),
    false,
    'shell',
  ],
  [
    'says that the database is away, and nothing is held',
    sources(() => Promise.resolve(page('away', 503)), holdsNothing),
    false,
    'away',
  ],
  ['refuses', sources(() => Promise.resolve(page('not there', 404))), false, 'not there'],
])('a page whose network %s', async (_, from, isReload, said) =>
  expect(await (await answerPage(from, isReload)).text()).toBe(said),
);

test('with neither network nor shell a page fails as it would without either', async () => {
  const { type } = await answerPage(sources(fails, noShell), false);
  expect(type).toBe('error');
});
