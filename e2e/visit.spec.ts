import { readFileSync } from 'node:fs';
import { expect, test, type BrowserContext, type Page } from '@playwright/test';
import { expectAccessible } from './accessible';
import { expectTidy } from './layout';
import { beginCheck, signIn, stack, stationId, url, visit } from './steps';

/** A visit where there is no signal: what was done is kept on the device and sent once, in order. */
test.describe.configure({ mode: 'serial' });
let context: BrowserContext;
let book: Page;
let connect: Page;
let check: Page;
let plan: Page;
let other: BrowserContext;
let bog: BrowserContext;
let station: string;

test.beforeAll(async ({ browser }) => {
  context = await browser.newContext({ viewport: { width: 390, height: 844 } });
  other = await browser.newContext();
  bog = await browser.newContext({ viewport: { width: 390, height: 844 }, serviceWorkers: 'allow' });
});
test.afterAll(async () => {
  await context.close();
  await other.close();
  await bog.close();
});

const note = (page: Page) => page.getByRole('textbox', { name: 'Note' });
/** A picture is of the time of its file: this one is new. */
const justTaken = () => ({
  name: 'terminals.png',
  mimeType: 'image/png',
  buffer: readFileSync('docs/screenshots/kit.png'),
});
const device = (page: Page) => page.getByRole('complementary', { name: 'This device' });

test('1 · with the signal gone notes, times, leads, a picture and a typed reading are kept on the device', async () => {
  book = await context.newPage();
  await signIn(book);
  station = await stationId(book, 'ARCH-2');
  await visit(book, `/field-book?station=${station}`);
  connect = await context.newPage();
  await visit(connect, `/stations/${station}/connect`);
  plan = await context.newPage();
  await visit(plan, `/stations/${station}/connect/plan`);
  check = await context.newPage();
  await visit(check, '/');
  await beginCheck(check, 'ARCH-2', /Map store air temp/, 'Map store');
  await context.setOffline(true);

  await note(book).fill('Lid open, water in the gland');
  await book.getByRole('button', { name: 'Add note' }).click();
  await expect(book.getByRole('region', { name: 'Not sent yet' })).toContainText('water in the gland');
  await expect(note(book)).toHaveValue('');

  await connect.getByRole('button', { name: 'Leads off' }).first().click();
  await expect(connect.getByText('(kept on this device)')).toBeVisible();
  await plan.getByLabel('Pictures from files').setInputFiles(justTaken());
  await expect(device(plan)).toContainText('3 kept on this device');

  await expect(check.getByText('The logger cannot be asked from here')).toBeVisible();
  await check.getByLabel('Logger’s display').fill('16,2');
  await check.getByLabel('Both stood still').check();
  await check.getByLabel('Reference reads').fill('16.0');
  await check.getByRole('button', { name: /Capture 1 of/ }).click();
  await expect(check.getByText('Kept on this device until it can be sent.')).toBeVisible();

  await book.getByRole('button', { name: 'Stamp the time' }).click();
  await note(book).fill('Dried, gland tightened');
  await book.getByRole('button', { name: 'Add note' }).click();
  await expect(device(book)).toContainText('5 kept on this device');
  await expectTidy(book, 'Field book, away');
});

test('2 · a page that goes away in the middle of a word loses nothing; with the signal back all is there, once, in order', async () => {
  await note(book).pressSequentially('Photographed the termi');
  await book.close({ runBeforeUnload: false });
  await context.setOffline(false);
  book = await context.newPage();
  await visit(book, `/field-book?station=${station}`);
  await expect(note(book)).toHaveValue('Photographed the termi');
  await expect(device(book)).toHaveCount(0);
  await note(book).press('End');
  await note(book).pressSequentially('nals');
  await book.getByRole('button', { name: 'Add note' }).click();
  await expect(book.locator('article').first()).toContainText('Photographed the terminals');
  const lines = await book.locator('article').allInnerTexts();
  const found = [
    /Photographed the terminals/,
    /Dried, gland tightened/,
    /As found 1 of .*sensor 16\.2.* read off the display/,
    /off-line: leads off for work/,
    /Lid open, water in the gland/,
  ].map((text) => lines.flatMap((l, i) => (text.test(l) ? [i] : [])));
  for (const at of found) expect(at).toHaveLength(1);
  expect(found.flat()).toEqual([...found.flat()].sort((a, b) => a - b));
  expect(lines.filter((l) => l.includes('Photograph, before touching'))).toHaveLength(1);
  await visit(check, check.url());
  await expect(check.getByText('typed, said to stand still')).toBeVisible();
});

test('3 · two people at one sensor: who is second sees both versions and keeps theirs as a note', async () => {
  await visit(connect, `/stations/${station}/connect`);
  await connect.getByRole('button', { name: 'Back on-line' }).click();
  await expect(connect.getByRole('button', { name: 'Leads off' }).first()).toBeEnabled();
  await expect(device(connect)).toHaveCount(0);
  await context.setOffline(true);
  await connect.getByRole('button', { name: 'Leads off' }).first().click();
  await expect(connect.getByText('(kept on this device)')).toBeVisible();
  const admin = await other.newPage();
  await signIn(admin, 'admin');
  await visit(admin, `/stations/${station}/connect`);
  await admin.getByRole('button', { name: 'Leads off' }).first().click();
  await expect(admin.getByRole('button', { name: 'Back on-line' })).toBeVisible();
  await context.setOffline(false);
  await expect(device(connect)).toContainText('1 refused, to be settled');
  await device(connect).getByRole('link').click();
  await expect(connect).toHaveURL(`${url()}/unsent`);
  const line = connect.getByRole('listitem').filter({ hasText: 'Leads off' });
  await expect(line).toContainText('is off-line already');
  await expect(line).toContainText(/There already · A.: off-line: leads off for work, 20/);
  await expectTidy(connect, 'Not sent yet');
  await line.getByRole('button', { name: 'Keep it as a note' }).click();
  await expect(connect.getByText('Everything is sent.')).toBeVisible();
  await visit(connect, `/field-book?station=${station}`);
  await expect(connect.locator('article').filter({ hasText: 'Not taken:' })).toHaveCount(1);
  await visit(admin, `/stations/${station}/connect`);
  await admin.getByRole('button', { name: 'Back on-line' }).click();
  await expect(admin.getByRole('button', { name: 'Leads off' }).first()).toBeVisible();
});

test('4 · a device three days ahead is told so, and what it does has the right time', async () => {
  const page = await other.newPage();
  await page.clock.install({ time: new Date(Date.now() + 3 * 86_400_000) });
  await visit(page, `/field-book?station=${station}`);
  await expect(device(page)).toContainText('This device’s clock is 3 d ahead of the server’s: set it.');
  await note(page).fill('By a tablet three days ahead');
  await page.getByRole('button', { name: 'Add note' }).click();
  const line = page.locator('article').filter({ hasText: 'By a tablet three days ahead' });
  await expect(line).toContainText('device 3 d ahead, corrected');
  const at = await line.locator('time').getAttribute('datetime');
  expect(Math.abs(Date.parse(at!) - Date.now())).toBeLessThan(120_000);
});

test('5 · the server killed while it takes what waited: all of it there, once', async () => {
  book = await context.newPage();
  await visit(book, `/field-book?station=${station}`);
  await context.setOffline(true);
  for (let i = 1; i <= 6; i++) {
    await note(book).fill(`Kept before the kill ${i}`);
    await book.getByRole('button', { name: 'Add note' }).click();
    await expect(device(book)).toContainText(`${i} kept on this device`);
  }
  const { killApp } = await import('../scripts/stack.mjs');
  // Any page of the device may be the one that delivers.
  const sending = context.waitForEvent('request', {
    predicate: (r) => r.url().endsWith('/api/v1/field-writes'),
    timeout: 60_000,
  });
  await context.setOffline(false);
  await sending;
  const startAgain = await killApp(stack().kind);
  await startAgain();
  await expect(device(book)).toHaveCount(0, { timeout: 60_000 });
  await visit(book, `/field-book?station=${station}`);
  const lines = (await book.locator('article').allInnerTexts()).filter((l) => l.includes('before the kill'));
  expect(lines.map((l) => /kill (\d)/.exec(l)![1])).toEqual(['6', '5', '4', '3', '2', '1']);
});

test('6 · a stop taken along: with the server gone its pages open, and a visit is made on them', async () => {
  let page = await bog.newPage();
  await signIn(page);
  const shed = await stationId(page, 'KELP-1');
  await beginCheck(page, 'KELP-1', /Shed air air temp/, 'Shed air');
  const check = page.url();
  await visit(page, '/take-along');
  const boxes = page.getByRole('checkbox');
  for (const box of await boxes.all()) await box.uncheck();
  await page.getByRole('checkbox', { name: /KELP-1/ }).check();
  await page.getByRole('button', { name: 'Take 1 stop along' }).click();
  await expect(page.getByText(/^1 stop held/)).toBeVisible();
  const { killApp } = await import('../scripts/stack.mjs');
  const startAgain = await killApp(stack().kind);
  await page.close();

  page = await bog.newPage();
  await page.goto(`${url()}/stations/${shed}/visit`);
  const away = () => page.getByRole('complementary', { name: 'Away' });
  await expect(away()).toContainText('The application cannot be reached; this was taken along');
  const arrive = page.getByRole('button', { name: /^Arrive/ });
  await expect(arrive).toBeDisabled();
  for (const box of await page.getByRole('form', { name: 'Arrive' }).getByRole('checkbox').all())
    await box.check();
  await arrive.click();
  await expect(page.getByText('You are here')).toBeVisible();
  await page.getByRole('button', { name: 'Now' }).click();
  await page
    .getByRole('form', { name: 'Add to the checklist' })
    .getByLabel('What')
    .fill('Fan output in hand');
  await page.getByRole('button', { name: 'Add', exact: true }).click();
  await expect(page.getByText('Fan output in hand: not put back')).toBeVisible();
  await page.getByLabel('Picture of the camera').setInputFiles(justTaken());
  await expect(device(page)).toContainText('4 kept on this device');
  await page.getByRole('checkbox', { name: /has not moved for/ }).click();
  await expect(device(page)).toContainText('5 kept on this device');
  await expect(page.getByRole('checkbox', { name: /has not moved for/ })).toBeChecked();
  await page.getByLabel('Reading in hand').fill('28,0');
  await page.getByLabel('What was read').fill('beside the shed transmitter');
  await page.getByRole('button', { name: 'Hold it' }).click();
  await expect(device(page)).toContainText('6 kept on this device');
  await expectTidy(page, 'Visit, away');
  await expectAccessible(page, 'Visit, away');
  await page.goto(`${url()}/stations/${shed}/connect`);
  await page.getByRole('button', { name: 'Leads off' }).first().click();
  await expect(page.getByText('(kept on this device)')).toBeVisible();
  await expectAccessible(page, 'Connect, away');
  await page.goto(check);
  await expect(page.getByText('The logger cannot be asked from here')).toBeVisible();
  await page.getByLabel('Logger’s display').fill('28,1');
  await page.getByLabel('Both stood still').check();
  await page.getByRole('button', { name: /Use 28 °C \(beside the shed transmitter\)/ }).click();
  await page.getByRole('button', { name: /Capture 1 of/ }).click();
  await expect(device(page)).toContainText('8 kept on this device');
  await expectAccessible(page, 'Check, away');
  await page.goto(`${url()}/stations/${shed}/visit`);
  await note(page).pressSequentially('Fan switched by ha');
  await page.close({ runBeforeUnload: false });

  page = await bog.newPage();
  await page.goto(`${url()}/stations/${shed}/visit`);
  await expect(note(page)).toHaveValue('Fan switched by ha');
  await note(page).press('End');
  await note(page).pressSequentially('nd');
  await page.getByRole('button', { name: 'Add note' }).click();
  await expect(note(page)).toHaveValue('');
  await page.goto(`${url()}/verify`);
  await expect(page.getByRole('heading', { name: 'This view needs the server' })).toBeVisible();
  await page.getByRole('link', { name: 'Visit', exact: true }).click();
  await page.getByRole('button', { name: 'Leave', exact: true }).click();
  await expect(page.getByText('3 still open here')).toBeVisible();
  await expectTidy(page, 'Leaving, away');
  await expectAccessible(page, 'Leaving, away');
  const goes = page.getByRole('button', { name: /^Leave all the same/ });
  await expect(goes).toBeDisabled();
  await page.getByLabel('Why it stays open: Fan output in hand').fill('A batch dries until six');
  await page.getByLabel('Why it stays open: Shed air').fill('Two readings to come after the batch');
  await expect(goes).toBeDisabled();
  await page.getByLabel(/^Why it stays open: KELP-1 /).fill('Its gland dries over night');
  await goes.click();
  await expect(device(page)).toContainText('10 kept on this device');

  await startAgain();
  // Nobody is in the middle of anything: it goes on by itself.
  await expect(away()).toHaveCount(0, { timeout: 60_000 });
  await expect(
    page.getByText(/Last left .* open: .*Fan output in hand: not put back \(A batch dries/),
  ).toBeVisible();
  await visit(page, `/field-book?station=${shed}`);
  // The newest ones: somebody put that fan in hand on an earlier visit, too.
  const lines = (await page.locator('article').allInnerTexts()).slice(0, 14);
  const found = [
    /Left\. Stays open: .*Fan output in hand/,
    /Fan switched by hand$/,
    /As found 1 of .*sensor 28\.1.* read off the display/,
    /off-line: leads off for work/,
    /Done: Auger outlet moisture/,
    /To put back before leaving: Fan output in hand/,
    /This moment was stamped/,
    /Arrived\. IK acknowledged: Mains/,
  ].map((text) => lines.flatMap((l, i) => (text.test(l) ? [i] : [])));
  for (const at of found) expect(at).toHaveLength(1);
  expect(found.flat()).toEqual([...found.flat()].sort((a, b) => a - b));
  expect(lines.filter((l) => l.includes('Photograph, before touching'))).toHaveLength(1);
  await visit(page, '/');
  const shedOnRound = page.getByRole('listitem').filter({ hasText: 'KELP-1' }).first();
  await expect(shedOnRound).toContainText(
    /Fan output in hand: not put back for .*; left open .* by IK: A batch dries until six/,
  );
  await expect(shedOnRound).toContainText(/left open .* by IK: Its gland dries over night/);
  const stops = await page
    .getByRole('listitem')
    .filter({ hasText: /[A-Z]+-\d/ })
    .allInnerTexts();
  expect(stops.findIndex((s) => s.includes('KELP-1'))).toBeLessThan(2);
});

test('7 · who signs out leaves nothing of the stops on the device, whatever the network does', async () => {
  const page = await bog.newPage();
  await visit(page, '/take-along');
  await expect(page.getByText(/^1 stop held/)).toBeVisible();
  await bog.setOffline(true);
  await page.getByRole('button', { name: /, technician$/ }).click();
  await page.getByRole('menuitem', { name: 'Sign out' }).click();
  await expect(page.getByRole('heading', { name: 'The application cannot be reached' })).toBeVisible();
  await expect(page.getByText('Nobody is signed in on this device')).toBeVisible();
  // With the signal back the session ends, too, before anything is shown.
  await bog.setOffline(false);
  await page.goto(`${url()}/take-along`);
  await expect(page).toHaveURL(/sign-in/);
});
