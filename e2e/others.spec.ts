import { expect, test, type Page } from '@playwright/test';
import { expectAccessible } from './accessible';
import { expectTidy } from './layout';
import { signIn, signOut, stationId, url, visit, stack } from './steps';

async function views(page: Page): Promise<[string, string][]> {
  const archive = await stationId(page, 'ARCH-2');
  const { channels, recent } = await page.evaluate(
    async (id) =>
      (await (await fetch(`/api/v1/stations/${id}/checks`)).json()) as {
        channels: { id: string }[];
        recent: { id: string }[];
      },
    archive,
  );
  const lastVisit = await page.evaluate(
    async (id) =>
      (
        (await (await fetch(`/api/v1/field-book?station=${id}&kind=visit`)).json()) as { visitId: string }[]
      )[0]!.visitId,
    archive,
  );
  // A window that begins and ends on a tick, whatever the time of day.
  const midnight = (daysAgo: number) =>
    `${new Date(Date.now() - daysAgo * 86_400_000).toISOString().slice(0, 10)}T00:00:00Z`;
  return [
    ['Round', '/'],
    ['Station', `/stations/${archive}`],
    ['Connect', `/stations/${archive}/connect`],
    ['Record', `/stations/${archive}/record`],
    ['Import', `/stations/${archive}/import`],
    ['Verify', '/verify'],
    ['Check, begin', `/stations/${archive}/check`],
    ['Check', `/stations/${archive}/check/${recent[0]!.id}`],
    ['Zone by zone', `/stations/${await stationId(page, 'ARCH-3')}/check/zones`],
    ['Trace', `/stations/${archive}/trace/${channels[1]!.id}?from=${midnight(7)}&until=${midnight(0)}`],
    ['Field book', '/field-book'],
    ['Kit', '/kit'],
    ['Readings of handhelds', '/kit/readings'],
    ['Own account', '/account'],
    ['Not sent yet', '/unsent'],
    ['Take along', '/take-along'],
    ['Visit', `/stations/${archive}/visit`],
    ['Hand-over', `/stations/${archive}/hand-over`],
    ['Page of the field book', `/stations/${archive}/visits/${lastVisit}`],
    ['Talk on the line', `/stations/${await stationId(page, 'KELP-3')}/connect/line`],
    ['Launch and read out', `/stations/${await stationId(page, 'HUT-3')}/connect/deploy`],
    ['Direct line', `/stations/${await stationId(page, 'KELP-3')}/connect/direct`],
    ['Bench', `/stations/${await stationId(page, 'MOSS-3')}/bench`],
    [
      'On the bench',
      `/stations/${await stationId(page, 'SLUICE-2')}/bench/${await onBench(page, 'SLUICE-2')}`,
    ],
    [
      'Plan for the bag',
      `/stations/${await stationId(page, 'SLUICE-2')}/bench/${await onBench(page, 'SLUICE-2')}/sheet`,
    ],
    [
      'Table for the bag',
      `/stations/${await stationId(page, 'SLUICE-2')}/bench/${await onBench(page, 'SLUICE-2')}/table`,
    ],
    ['Exercises', '/exercises'],
    ['An exercise', '/exercises?n=10'],
    ['Quick sums', '/kit/calculator'],
    ['Meters', '/kit/meters'],
    ['Standards', '/kit/standards'],
    ['Methods and persons', '/kit/methods'],
    ['An instrument', `/kit/instruments/${await firstInstrument(page)}`],
    ['Circuits', '/kit/circuits'],
    ['Wiring plan', `/stations/${await stationId(page, 'HATCH-2')}/connect/plan`],
    ['Wiring sheet', `/stations/${await stationId(page, 'MOSS-3')}/connect/plan/sheet`],
    ['Sites and stations', '/set-up'],
    ['Catalogue', '/catalogue'],
  ];
}

/** The water meter, of which something was found. */
const firstInstrument = (page: Page): Promise<string> =>
  page.evaluate(async () => {
    const kit = (await (await fetch('/api/v1/kit')).json()) as { id: string; serial: string }[];
    return kit.find((i) => i.serial === 'WQ-090')!.id;
  });

/** The first sensor of a station that a meter judges. */
const onBench = async (page: Page, code: string): Promise<string> =>
  page.evaluate(
    async (id) => {
      const view = (await (await fetch(`/api/v1/stations/${id}/bench`)).json()) as {
        sensors: { installationId: string }[];
      };
      return view.sensors[0]!.installationId;
    },
    await stationId(page, code),
  );

/** What the browser is told of the system's scheme, once the page has followed. */
async function inScheme(page: Page, scheme: 'light' | 'dark'): Promise<void> {
  await page.emulateMedia({ colorScheme: scheme });
  const dark = () =>
    page.evaluate(() => {
      const [r = 255] = getComputedStyle(document.body).backgroundColor.match(/\d+/g)!.map(Number);
      return r < 128;
    });
  await expect.poll(dark).toBe(scheme === 'dark');
}

/** Buttons and chips change colour over a quarter of a second; half-way, no contrast is true. */
async function atRest(page: Page): Promise<void> {
  const moving = () =>
    page.evaluate(
      () =>
        document
          .getAnimations()
          .filter((a) => a.playState === 'running' && a.effect?.getComputedTiming().endTime !== Infinity)
          .length,
    );
  await expect.poll(moving).toBe(0);
}

test('every view: no serious accessibility finding, light and dark; at every width nothing runs out, is cut or overlaps', async ({
  browser,
}) => {
  // Some forty looks at each of two schemes and three widths: more than a journey has.
  test.setTimeout(600_000);
  const desktop = { width: 1280, height: 800 };
  const context = await browser.newContext({ viewport: desktop, colorScheme: 'light' });
  const page = await context.newPage();
  const faults: string[] = [];
  page.on('pageerror', (e) => faults.push(e.message));
  page.on('console', (m) => m.type() === 'error' && faults.push(`${m.text()} ${m.location().url}`));
  /** Every rule in light; in dark those that colours decide, since nothing else differs. */
  const lookInBoth = async (name: string) => {
    await atRest(page);
    await expectAccessible(page, name);
    await inScheme(page, 'dark');
    await atRest(page);
    await expectAccessible(page, `${name}, dark`, { rules: ['color-contrast', 'link-in-text-block'] });
    await inScheme(page, 'light');
  };
  await page.goto(`${url()}/sign-in`);
  await lookInBoth('Sign in');
  await signIn(page);
  for (const [name, path] of await views(page)) {
    await visit(page, path);
    await expect(page.locator('h1')).toBeVisible();
    // What a page asks for beside itself may still change its buttons.
    await page.waitForLoadState('networkidle', { timeout: 5_000 }).catch(() => undefined);
    await lookInBoth(name);
    // On a phone the band on top is one line; wide tables scroll within themselves.
    await page.setViewportSize({ width: 390, height: 844 });
    expect(
      (await page.locator('header').boundingBox())!.height,
      `${name}: the band on a phone`,
    ).toBeLessThanOrEqual(56);
    if (name === 'Check, begin')
      for (const control of [
        page.getByRole('button', { name: 'Begin' }),
        page.getByRole('combobox', { name: 'Channel' }),
      ])
        expect((await control.boundingBox())!.height, 'for gloves').toBeGreaterThanOrEqual(48);
    await page.setViewportSize(desktop);
    await expectTidy(page, name);
  }
  await visit(page, '/kit');
  await page.getByRole('button', { name: 'Add an instrument' }).click();
  await lookInBoth('Kit form');
  await expectTidy(page, 'Kit form');
  await page.keyboard.press('Escape');
  await visit(page, '/set-up');
  await page.getByRole('button', { name: 'Logger and lines' }).first().click();
  await lookInBoth('Logger and lines');
  await expectTidy(page, 'Logger and lines');
  await page.locator('h1').click();
  await page.keyboard.press('?');
  await lookInBoth('Keys');
  expect(faults).toEqual([]);
  await context.close();
});

test('a viewer sees everything and is offered nothing to change', async ({ browser }) => {
  const page = await browser.newPage();
  await signIn(page, 'viewer');
  for (const [, path] of await views(page)) {
    await visit(page, path);
    await expect(page.locator('h1')).toBeVisible();
    for (const name of [
      'Talk',
      'Collect the record',
      'Add a transmitter',
      'Begin',
      'Add note',
      'Add an instrument',
      'Edit',
      'Choose a file',
      'Set the clock',
      'Approve',
      'Take a picture',
      'Propose',
      'Logger and lines',
    ])
      await expect(page.getByRole('button', { name, exact: true })).toHaveCount(0);
  }
  await page.close();
});

test('keys: to the field book and back, down the Round and into a stop', async ({ browser }) => {
  const page = await browser.newPage();
  await signIn(page);
  await page.keyboard.press('g');
  await page.keyboard.press('b');
  await expect(page.getByRole('heading', { name: 'Field book' })).toBeVisible();
  await page.keyboard.press('g');
  await page.keyboard.press('r');
  await expect(page.getByRole('heading', { name: 'Round' })).toBeVisible();
  await page.keyboard.press('j');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/stations\//);
  await page.close();
});

test('an address that leads nowhere says so; signed out leads to the sign-in page', async ({ browser }) => {
  const page = await browser.newPage();
  await signIn(page);
  await page.goto(`${url()}/stations/nonsense`);
  await expect(page.getByText('There is nothing at this address')).toBeVisible();
  await visit(page, '/');
  await signOut(page);
  await expect(page).toHaveURL(/sign-in/);
  await page.goto(`${url()}/kit`);
  await expect(page).toHaveURL(/sign-in/);
  await page.close();
});

test('the page carries a policy without inline script from outside', async ({ browser }) => {
  const page = await browser.newPage();
  const response = await page.goto(`${url()}/sign-in`);
  const policy = response!.headers()['content-security-policy']!;
  expect(policy).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic'/);
  expect(policy).not.toMatch(/script-src[^;]*unsafe/);
  await page.close();
});

test('the database away for a while: the page says so, nothing is lost, it goes on by itself', async ({
  browser,
}) => {
  const context = await browser.newContext();
  const page = await context.newPage();
  await signIn(page);
  await visit(page, '/field-book');
  await page.getByRole('textbox', { name: 'Note' }).fill('Written while the database was away');
  const { pausePostgres } = await import('../scripts/postgres.mjs');
  const resume = pausePostgres(stack().kind);
  await page.getByRole('button', { name: 'Add note' }).click();
  await expect(page.getByRole('complementary', { name: 'This device' })).toContainText(
    '1 kept on this device, not sent yet: The database does not answer',
  );
  const other = await context.newPage();
  await other.goto(`${url()}/kit`);
  await expect(other.getByRole('heading', { name: 'The database is away' })).toBeVisible();
  resume();
  await expect(other.getByRole('heading', { name: 'Kit' })).toBeVisible({ timeout: 20_000 });
  await expect(page.getByRole('complementary', { name: 'This device' })).toHaveCount(0);
  await expect(page.locator('main').getByText('Written while the database was away')).toHaveCount(1);
  await context.close();
});
