import { expect, test } from '@playwright/test';
import { expectTidy } from './layout';
import { lab, signIn, stationId, visit } from './steps';

/** A sensor leaves and another takes its place: the same channels, its first reading beside the last of the old one. */
test('a weather head is swapped: refused by name, then noted with what both read', async ({ page }) => {
  await signIn(page);
  const mast = await stationId(page, 'MOSS-2');
  await visit(page, `/stations/${mast}/connect`);
  const head = page.getByRole('region', { name: /^Sensor M4-/ });
  await head.getByRole('button', { name: 'Talk' }).click();
  await expect(head.getByText('It answers')).toBeVisible();

  await head.getByRole('button', { name: 'Swap it' }).click();
  const form = head.locator('form');
  // What stays is filled in.
  await expect(form.getByRole('combobox', { name: 'Model' })).toContainText('Skua M4');
  await expect(form.getByLabel('ID on the bus')).toHaveValue('1');
  await form.getByLabel('Serial number').fill('M4-0777');
  await form.getByRole('button', { name: /^Swap it for / }).click();
  await expect(form.getByRole('alert').filter({ hasText: 'reason is missing' })).toBeVisible();
  await expectTidy(page, 'swapping a sensor');
  await form.getByLabel('Why it is swapped').fill('bearing worn');
  for (const lead of await form.getByRole('checkbox').all()) await lead.check();
  await form.getByRole('button', { name: /^Swap it for / }).click();

  const fresh = page.getByRole('region', { name: 'Sensor M4-0777' });
  await expect(fresh.getByText(/feeds channel 1 air temperature/)).toBeVisible();
  await fresh.getByRole('button', { name: 'Talk' }).click();
  await expect(fresh.getByText('It answers')).toBeVisible();
  await visit(page, `/field-book?station=${mast}`);
  await expect(
    page.getByText(/^Swapped Skua M4 weather head .* for .* M4-0777, .*: bearing worn/),
  ).toBeVisible();
  await expect(page.getByText(/first reading, beside the sensor before it .*air temperature/)).toBeVisible();

  await visit(page, `/stations/${mast}/connect`);
  await fresh.getByRole('button', { name: 'Take it out' }).click();
  await expect(fresh.getByRole('button', { name: 'Take M4-0777 out' })).toBeVisible();
  await expectTidy(page, 'taking a sensor out');
  await fresh.getByRole('button', { name: 'Take it out' }).click();
});

/** A controller starts anew with what it is told, and keeps it only when it is told to. */
test('a logger is told its name: said before, written, read back, gone at power-off unless it is stored', async ({
  page,
}) => {
  await signIn(page);
  const trough = await stationId(page, 'HATCH-2');
  await visit(page, `/stations/${trough}/connect`);
  await expect(page.getByText('A write starts this logger anew')).toBeVisible();
  const logger = page.getByRole('region', { name: 'The logger itself' });
  await logger.getByRole('button', { name: 'Change ID and name' }).click();
  await logger.getByLabel('Station ID').fill('HATCH 2');
  await logger.getByRole('button', { name: 'Stage it' }).click();
  await expect(logger.getByText('Use letters, digits and hyphens.')).toBeVisible();
  await logger.getByLabel('Station ID').fill('HATCH-2');
  await logger.getByLabel('Name in the logger').fill('Troughs, light');
  await logger.getByRole('button', { name: 'Stage it' }).click();
  await expect(logger.getByText('name Light over the troughs → Troughs, light')).toBeVisible();
  await logger.getByRole('button', { name: 'Write it' }).click();
  await expect(logger.getByText('name “Troughs, light”')).toBeVisible();
  await expect(logger.getByText('lasts until power-off only')).toBeVisible();
  await expectTidy(page, 'a logger that forgets');
  await logger.getByRole('button', { name: 'Store for good' }).click();
  await expect(logger.getByText('Stored for good.')).toBeVisible();
  await lab({ logger: { station: 'HATCH-2', powerCycle: true } });
  await page.getByRole('button', { name: 'Compare with what it holds' }).click();
  await expect(page.getByText(/^All 3 channels are as they were written/)).toBeVisible();
});
