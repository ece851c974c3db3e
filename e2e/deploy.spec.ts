import { writeFileSync } from 'node:fs';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { expect, test, type Browser, type BrowserContext, type Page } from '@playwright/test';
import type { LabOrder } from '@/simulator/lab';
import { expectTidy } from './layout';
import { enter, stack } from './steps';

/**
 * A logger that stands alone is launched, carried out, left for weeks, taken down and read out; what came from the
 * bench and from the drive home is marked, the rest is approved; and it ends when it was said to. The weeks go by on the
 * clocks of the application, of the browser and of the stand.
 */
const day = 86_400_000;
const hour = 3_600_000;
const clock = path.join(process.cwd(), '.data', 'e2e-deploy-clock');
let ahead = 0;
let own: Awaited<ReturnType<typeof start>> | undefined;

async function start() {
  const { startStack } = await import('../scripts/stack.mjs');
  writeFileSync(clock, '0');
  return startStack(`${stack().kind}-deploy`, {
    fresh: true,
    lane: 2,
    only: 'HUT-3',
    more: {
      CLOCK_AHEAD: clock,
      NODE_OPTIONS: `--import ${pathToFileURL(path.join(process.cwd(), 'e2e/clockAhead.mjs')).href}`,
    },
  });
}
test.use({ actionTimeout: 15_000 });
test.beforeAll(async () => {
  own = await start();
});
test.afterAll(async () => {
  const { stop } = await import('../scripts/children.mjs');
  if (!own) return;
  await stop(own.app);
  await stop(own.simulator);
  own.postgres.stop();
});

async function order(to: LabOrder): Promise<void> {
  const response = await fetch(`${own!.lab}/lab`, { method: 'POST', body: JSON.stringify(to) });
  if (!response.ok) throw new Error(await response.text());
}
const carry = (place: string | null) => order({ logger: { station: 'HUT-3', carry: { place } } });

/** Nothing runs at this station, so no strip tells that the page's own script is at work: its first questions are answered. */
const awake = (page: Page) => page.waitForLoadState('networkidle');

interface Someone {
  readonly context: BrowserContext;
  readonly page: Page;
  readonly name: string;
}

/** Time goes by for all three; the page is loaded anew. */
async function pass({ context, page, name }: Someone, ms: number): Promise<void> {
  ahead += ms;
  writeFileSync(clock, String(ahead));
  await order({ clock: { mode: 'ahead', by: ahead } });
  await context.addInitScript((by) => {
    const Real = ((globalThis as { RealDate?: DateConstructor }).RealDate ??= Date);
    globalThis.Date = class extends Real {
      constructor(...of: [] | [number | string]) {
        super(of.length === 0 ? Real.now() + by : of[0]);
      }
      static override now() {
        return Real.now() + by;
      }
    } as DateConstructor;
  }, ahead);
  const here = page.url();
  await page.reload();
  // A session does not last for weeks.
  if (page.url().includes('sign-in')) {
    await enter(page, own!.url, name, 'peat-and-lichen');
    await expect(page).not.toHaveURL(/sign-in/);
    await page.goto(here);
  }
  await awake(page);
}

async function signedIn(browser: Browser, name: string): Promise<Someone> {
  const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
  const page = await context.newPage();
  await enter(page, own!.url, name, 'peat-and-lichen');
  await expect(page.getByRole('heading', { name: 'Round' })).toBeVisible();
  await awake(page);
  return { context, page, name };
}

test('launched, left for weeks, read out, cleaned and approved; it lasts as it was said to', async ({
  browser,
}) => {
  const technician = await signedIn(browser, 'technician');
  const { context, page } = technician;
  await page
    .getByRole('link', { name: /Far hag/ })
    .first()
    .click();
  await page.getByRole('link', { name: 'Connect' }).click();
  await page.getByRole('link', { name: 'Launch and read out' }).click();
  const launch = (name: string) => page.getByRole('region', { name: `Launch ${name}` });

  // What it holds is read out first: a launch wipes it.
  await page.getByRole('button', { name: 'Launch it anew' }).click();
  await page.getByLabel('Description, as the logger keeps it').fill('Hag, a second time');
  await page.getByRole('button', { name: 'Launch it', exact: true }).click();
  await expect(page.getByText(/^It holds \d+ rows, .* none of them was|not all were read out/)).toBeVisible();
  await launch('Far hag, face and foot').first().getByRole('button', { name: 'Collect the record' }).click();
  await expect(page.getByText(/^Collected: \d+ values new/)).toBeVisible();

  // How long it lasts answers while one drags; the interval stays as it is set.
  await carry('Bench');
  const slider = page.getByRole('slider', { name: 'Storage interval to try' });
  await slider.press('ArrowRight');
  await expect(page.getByText(/stored every 15 min; the next visit/)).toBeVisible();
  await slider.press('ArrowLeft');
  await expect(page.getByText('25–28 days, until the memory is full')).toBeVisible();
  await page.getByRole('button', { name: 'Launch it', exact: true }).click();
  const mine = launch('Hag, a second time');
  await expect(mine.getByText('25–28 days', { exact: true })).toBeVisible();
  await expect(page.getByText('You can leave it: all 8 points are good.')).toBeVisible();
  await expectTidy(page, 'before you leave');

  await pass(technician, 4 * hour);
  await carry(null);
  await mine.getByRole('button', { name: 'It hangs now' }).click();
  await expect(mine.getByText(/^Hangs where it measures since/)).toBeVisible();
  await pass(technician, 20 * day);
  await carry('Van');
  await mine.getByRole('button', { name: 'Taken down now' }).click();
  await expect(mine.getByText(/^Taken down \d{4}/)).toBeVisible();
  await pass(technician, 3 * hour);
  await carry('Bench');
  await mine.getByRole('button', { name: 'Stop it' }).click();
  await expect(mine.getByText(/· ended$/)).toBeVisible();
  await mine.getByRole('button', { name: 'Collect the record' }).click();
  await expect(mine.getByText(/^Read out: 29\d\d rows/)).toBeVisible();

  for (const name of ['From the bench', 'From the drive home']) {
    const stretch = mine.getByRole('region', { name });
    await expect(stretch.getByText('proposed as not data')).toBeVisible();
    await stretch.getByRole('button', { name: 'Mark as not data' }).click();
    await expect(stretch.getByText('marked as not data')).toBeVisible();
  }
  await expectTidy(page, 'what was read out');
  const saved = page.waitForEvent('download');
  await mine.getByRole('link', { name: 'Save as a file' }).click();
  const file = await saved;
  expect(file.suggestedFilename()).toMatch(/^hut-3-\d{4}-\d\d-\d\d-\d{4}-n3-0012\.csv$/);

  // Its values are verified: the reviewer signs what is left, and sees what is not.
  const reviewer = await signedIn(browser, 'reviewer');
  await pass(reviewer, 0);
  await reviewer.page.getByRole('link', { name: 'Verify' }).click();
  await reviewer.page
    .getByRole('link', { name: /Hag face/ })
    .first()
    .click();
  await expect(reviewer.page.getByText(/recorded before it hung where it measures/).first()).toBeVisible();
  await reviewer.page.getByRole('tab', { name: 'Approve' }).click();
  await reviewer.page.getByRole('button', { name: 'Approve', exact: true }).click();
  await expect(reviewer.page.getByText(/approved/i).first()).toBeVisible();
  await reviewer.context.close();

  // It ends when it was said to: left for too long.
  await page.getByLabel('Description, as the logger keeps it').fill('Left too long');
  await page.getByRole('button', { name: 'Launch it', exact: true }).click();
  await expect(launch('Left too long').getByText('25–28 days', { exact: true })).toBeVisible();
  await pass(technician, 40 * day);
  await expect(page.getByText('Its memory is full: it records nothing.')).toBeVisible();
  const now = await page.evaluate(async () => {
    const [, id] = /stations\/([^/]+)/.exec(location.pathname)!;
    return (await (await fetch(`/api/v1/stations/${id}/deployment/now`)).json()) as {
      rows: number;
      state: string;
    };
  });
  expect(now.state).toBe('full');
  const lasted = (now.rows * 600) / 86_400;
  expect(lasted).toBeGreaterThan(25);
  expect(lasted).toBeLessThan(27.8);
  await context.close();
});
