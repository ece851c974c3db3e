import { expect, test } from '@playwright/test';
import { awake, choose, enter, firstAdministrator, fromMenu, signIn, signOut, typeTwice, url } from './steps';

/** An account from its invitation to its end, in two browsers; and the very first one of an installation. */
const password = 'stone upon stone';

test('the first administrator, with the code the server shows', async ({ page }) => {
  const { startEmptyApp } = await import('../scripts/stack.mjs');
  const empty = await startEmptyApp('e2e-first');
  try {
    await page.goto(`${empty.url}/sign-in`);
    await expect(page.getByText('There is no administrator yet')).toBeVisible();
    await firstAdministrator(page, empty, password);
    await page.goto(empty.welcome);
    await expect(page.getByRole('heading', { name: 'There is an administrator' })).toBeVisible();
  } finally {
    await empty.stop();
  }
});

test('invited by a link that works once, password changed, disabled, gone at the next click', async ({
  browser,
}) => {
  const admin = await browser.newPage();
  await signIn(admin, 'admin');
  await fromMenu(admin, 'Administration');
  await expect(admin.getByRole('heading', { name: 'People' })).toBeVisible();
  await admin.getByLabel('Name').fill('wren');
  await admin.getByLabel('Initials').fill('WN');
  await choose(admin, 'Role', 'reviewer');
  await admin.getByRole('button', { name: 'Make the account and a link' }).click();
  const link = await admin.getByLabel('Link for wren').inputValue();
  expect(link).toMatch(new RegExp(`^${url()}/set-password#`));

  const wren = await (await browser.newContext()).newPage();
  await wren.goto(link);
  await expect(wren.getByText('For wren. This link works once.')).toBeVisible();
  await typeTwice(wren, 'short');
  await wren.getByRole('button', { name: 'Set the password' }).click();
  await expect(wren.getByRole('alert').filter({ hasText: 'has 5 characters' })).toBeVisible();
  await typeTwice(wren, password);
  await wren.getByRole('button', { name: 'Set the password' }).click();
  await expect(wren.getByText('Sign in as wren')).toBeVisible();
  await wren.goto(link);
  await wren.reload();
  await expect(wren.getByRole('alert').filter({ hasText: 'The link was used already' })).toBeVisible();
  await enter(wren, url(), 'wren', password);
  await expect(wren.getByRole('heading', { name: 'Round' })).toBeVisible();

  await expect(wren.getByRole('button', { name: 'wren, reviewer' })).toBeVisible();
  await fromMenu(wren, 'Own account');
  await expect(wren.getByText('This device')).toBeVisible();
  await wren.getByLabel('Present password').fill(password);
  await typeTwice(wren, 'lichen over lichen');
  await wren.getByRole('button', { name: 'Change the password' }).click();
  await expect(wren.getByText('The password is changed')).toBeVisible();
  await signOut(wren);
  await enter(wren, url(), 'wren', password);
  await expect(wren.getByText('do not belong together')).toBeVisible();
  await enter(wren, url(), 'wren', 'lichen over lichen');
  await expect(wren.getByRole('heading', { name: 'Round' })).toBeVisible();
  // What is for administrators is not there for others.
  await wren.goto(`${url()}/administration`);
  await expect(wren.getByText('There is nothing at this address')).toBeVisible();

  await admin.reload();
  await awake(admin);
  const line = admin.getByRole('region', { name: 'wren', exact: true });
  await line.getByRole('button', { name: 'Disable' }).click();
  await expect(line.getByRole('button', { name: 'Enable' })).toBeVisible();
  await wren.goto(`${url()}/kit`);
  await expect(wren).toHaveURL(/sign-in/);
  await enter(wren, url(), 'wren', 'lichen over lichen');
  await expect(wren.getByText('do not belong together')).toBeVisible();
  // The last administrator is refused what would leave nobody.
  const own = admin.getByRole('region', { name: 'admin', exact: true });
  await own.getByRole('button', { name: 'Disable' }).click();
  await expect(admin.getByRole('alert').filter({ hasText: 'the last administrator' })).toBeVisible();
  await admin.close();
  await wren.context().close();
});
