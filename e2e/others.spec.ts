import { expect, test } from '@playwright/test';
import { signIn, signOut, url, visit, stack } from './steps';
import { views } from './views';

/** What changes something, by the words on it. */
const changes = [
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
];

test('a viewer sees everything and is offered nothing to change', async ({ browser }) => {
  const page = await browser.newPage();
  await signIn(page, 'viewer');
  for (const [name, path] of await views(page)) {
    await visit(page, path);
    await expect(page.locator('h1')).toBeVisible();
    const offered = await page.getByRole('button').allTextContents();
    expect(
      offered.filter((text) => changes.includes(text.trim())),
      name,
    ).toEqual([]);
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
