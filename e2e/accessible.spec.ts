import { expect, test, type Page } from '@playwright/test';
import { expectAccessible } from './accessible';
import { expectTidy } from './layout';
import { signIn, url, visit } from './steps';
import { views } from './views';

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
