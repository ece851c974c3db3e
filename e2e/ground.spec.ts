import { expect, test } from '@playwright/test';
import { expectTidy } from './layout';
import { v7 as newId } from 'uuid';
import { post, signIn, stationId, visit } from './steps';

/** Channels by formula, thresholds that are drawn before they are saved, and a look at the look itself. */
test('a dew point is derived, tested by the month, and follows a correction of what it rests on', async ({
  page,
}) => {
  await signIn(page);
  const archive = await stationId(page, 'ARCH-1');
  await visit(page, `/stations/${archive}/record`);
  await page.getByRole('button', { name: 'Derive a channel' }).click();
  await page.getByRole('button', { name: 'Derive it' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'zoneName is missing' })).toBeVisible();
  await expectTidy(page, 'deriving');
  await page.getByLabel('Where, for its name').fill('Lantern room');
  await page.getByRole('button', { name: 'Derive it' }).click();
  const line = page.locator('li', { hasText: 'Lantern room dew point' });
  await expect(line).toContainText('dew point of Lantern room air temp and Lantern room humidity');
  await expect(line.getByRole('img', { name: /^Last 7 days: / })).toBeVisible();
  await line.getByRole('link', { name: 'Lantern room dew point' }).click();
  await expect(page.getByText('Reckoned at their common stamps, from corrected values')).toBeVisible();

  // A threshold says what it would flag before it is saved, and where it lies.
  await page.getByRole('tab', { name: 'Quality tests' }).click();
  await expect(page.getByText('flags none').first()).toBeVisible();
  await page.getByLabel('User range: from').fill('-40');
  await page.getByLabel('User range: to').fill('-30');
  await expect(page.getByText(/^flags \d+ suspect$/)).toBeVisible();
  await page.getByRole('button', { name: 'Learn from this record' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'too little to learn from' })).toBeVisible();
  await page.getByLabel('Nov from').fill('-20');
  await page.getByLabel('Nov to').fill('-19');
  await page.getByLabel('User range: from').fill('');
  await page.getByLabel('User range: to').fill('');
  await page.getByRole('button', { name: 'Save the thresholds' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await expectTidy(page, 'thresholds by the month');
  await page.getByRole('button', { name: 'Test the record again' }).click();
  await expect(page.getByText(/^Tested: \d+ values flagged/)).toBeVisible();

  // What is added to the air temperature is in the dew point at once.
  const newest = async () =>
    page.evaluate(async (id) => {
      const { channels } = (await (await fetch(`/api/v1/stations/${id}/record`)).json()) as {
        channels: { channelId: string; quantity: string; lastValue: number; lastAt: string }[];
      };
      return channels.map((c) => ({ ...c, lastAt: Date.parse(c.lastAt) }));
    }, archive);
  const find = async (quantity: string) => (await newest()).find((c) => c.quantity === quantity)!;
  const before = await find('dewPoint');
  const source = await find('airTemperature');
  await post(page, `/api/v1/stations/${archive}/channels/${source.channelId}/corrections`, {
    layerId: newId(),
    shape: 'step',
    from: new Date(source.lastAt - 86_400_000).toISOString(),
    until: new Date(source.lastAt + 60_000).toISOString(),
    fromOffset: 3,
    untilOffset: 3,
    reason: 'difference of two checks',
  });
  expect((await find('dewPoint')).lastValue).toBeGreaterThan(before.lastValue + 2);
  await visit(page, '/verify?text=dew');
  await expect(page.locator('tbody tr')).toContainText('Lantern room dew point');
});

test('what a person read off is typed: a slip is asked about, the right value stored', async ({ page }) => {
  await signIn(page);
  await visit(page, `/stations/${await stationId(page, 'SLIP-1')}/record`);
  await page.getByRole('button', { name: 'Type a reading' }).click();
  await expect(page.getByRole('combobox', { name: 'Channel' })).toContainText('Tide board level');
  await page.getByLabel('Value').fill('24.1');
  await page.getByRole('button', { name: 'Store it' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'Did you mean 2.41 m?' })).toBeVisible();
  await expectTidy(page, 'typing a reading');
  await page.getByLabel('Value').fill('2,41');
  await page.getByRole('button', { name: 'Store it' }).click();
  await expect(page.getByText('Stored. A slip is withdrawn under Import.')).toBeVisible();
  await expect(page.locator('li', { hasText: 'Tide board level' })).toContainText('2.410 m');
});

test('the look at the layout finds what is planted', async ({ page }) => {
  await page.setContent(`<body style="margin:0">
    <p style="position:absolute;left:10px;top:10px">one line of words</p>
    <p style="position:absolute;left:20px;top:14px">another over it</p>
    <div style="width:40px;overflow:hidden;white-space:nowrap;margin-top:80px"><span>much too long for its box</span></div>
    <div style="width:4000px">wide</div></body>`);
  const found = await expectTidy(page, 'planted', {
    at: [{ width: 800, height: 600 }],
    patience: 1_000,
  }).then(
    () => '',
    (error: Error) => error.message,
  );
  for (const words of ['px too wide', 'lies over', 'is cut off']) expect(found).toContain(words);
});
