import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { expectTidy } from './layout';
import { choose, signIn, stack, visit } from './steps';

/** From nothing to a first record without a command line: site, station, logger, plan, sensors, settings. */
const ports = () => {
  // The twelfth logger of the stand, two ports to each (simulator/scenario.ts): it stands there and nobody knows it.
  const base = Number(new URL(stack().lab).port);
  return { http: base + 1 + 2 * 11, bus: base + 2 + 2 * 11 };
};

/** Edits, stages and writes a channel's proposed settings. */
async function writeChannel(page: Page, number: number): Promise<void> {
  const channel = page.getByRole('region', { name: `Settings of channel ${number}` });
  await channel.getByRole('button', { name: 'Edit' }).click();
  await channel.getByRole('button', { name: 'Stage' }).click();
  await channel.getByRole('button', { name: 'Write', exact: true }).click();
  await expect(channel).toContainText('Written and read back equal');
}

test.describe.configure({ timeout: 150_000 });
test.use({ actionTimeout: 15_000 });

test('a station is set up, planned, checked, wired and read without a command line', async ({ page }) => {
  await signIn(page);
  await page.getByRole('button', { name: /, technician$/ }).click();
  await page.getByRole('menuitem', { name: 'Sites and stations' }).click();
  await page.getByRole('button', { name: 'Add a station' }).click();
  const form = page.getByRole('form', { name: 'Add a station' });
  await form.getByLabel('Site', { exact: true }).fill('Hut Point');
  await form.getByLabel('Latitude, °').fill('57.45');
  await form.getByLabel('Longitude, °').fill('-17.37');
  await form.getByLabel('Code').fill('hut-1');
  await form.getByLabel('Name', { exact: true }).fill('Bog hut');
  await form.getByLabel('Caution').fill('Soft ground: keep to the boardwalk.');
  await choose(page, 'Logger', 'Brannoch B4 logger');
  await form.getByLabel('Serial number of the logger').fill('BR4-1903');
  await form.getByLabel('Address of the logger').fill(`127.0.0.1:${ports().http}`);
  await form.getByLabel('Gateway of RS-485 port 1').fill(`127.0.0.1:${ports().bus}`);
  await expectTidy(page, 'adding a station');
  await form.getByRole('button', { name: 'Add it' }).click();
  // That one stands elsewhere: the label was read wrongly.
  await expect(form.getByRole('alert')).toContainText('Logger BR4-1903 is at a station already');
  await form.getByLabel('Serial number of the logger').fill('BR4-2120');
  await form.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByRole('heading', { name: 'Wiring plan' })).toBeVisible();

  // Two sensors; the plan check says what is missing, propose finds it.
  for (const [model, name] of [
    ['Noust S3 soil probe', 'Bed'],
    ['Quern TH-3 air transmitter', 'Hut air'],
  ] as const) {
    await choose(page, 'Model', model);
    await page.getByLabel('Where').first().fill(name);
    await page.getByRole('button', { name: 'Add to the plan' }).click();
  }
  const check = page.getByRole('region', { name: 'Plan check' });
  await expect(check).toContainText('Lead without a place');
  await page.getByRole('button', { name: 'Propose' }).click();
  await expect(page.getByText('Landed Bed, Hut air.')).toBeVisible();
  await expect(check).not.toContainText('will not work');

  // By keyboard: the data lead is taken off, said to be open, lifted and landed again; then all of it undone.
  const teal = page.getByRole('button', { name: /^teal lead of Bed/ });
  await page.getByRole('button', { name: /^Bed, Noust/ }).click();
  await expect(teal).toHaveAccessibleName(/on 9 SD/);
  await teal.focus();
  await page.keyboard.press('Delete');
  await expect(teal).toHaveAccessibleName(/open/);
  await expect(check).toContainText('a lead that ends nowhere: teal (data)');
  await teal.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: /^Terminal 9 SD.*fits/ })).toBeFocused();
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  await expect(check).toContainText(
    'The teal lead of Bed (Noust S3 soil probe) is data, terminal 8 S− is ground.',
  );
  await page.getByRole('button', { name: 'Undo' }).click();
  // By hand: dragged from its stub onto its terminal.
  const from = (await teal.boundingBox())!;
  const to = (await page.getByRole('button', { name: /^Terminal 9 SD/ }).boundingBox())!;
  await page.mouse.move(from.x + from.width - 8, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(to.x - 60, to.y, { steps: 4 });
  await page.mouse.move(to.x + 40, to.y + to.height / 2, { steps: 4 });
  await page.mouse.up();
  await expect(teal).toHaveAccessibleName(/on 9 SD/);

  // A cable that is too long, and accepted with its reason.
  await page.getByLabel('Cable, m').fill('80');
  await expect(check).toContainText('80 m > 65 m');
  const length = check.locator('div', { hasText: 'SDI-12 line too long' }).last().locator('..');
  await length.getByRole('button', { name: 'Accept …' }).click();
  await check.getByLabel('Reason').fill('measured: answers over 90 m');
  await check.getByRole('button', { name: 'Accept', exact: true }).click();
  await expect(check).toContainText('measured: answers over 90 m');
  await page.getByRole('button', { name: 'Save' }).click();
  await expect(page.getByText('revision 1 by IK')).toBeVisible();
  await expectTidy(page, 'the wiring plan');
  const { violations } = await new AxeBuilder({ page }).analyze();
  expect(violations.map((v) => `${v.id}: ${v.nodes[0]?.html.slice(0, 120)}`)).toEqual([]);

  // The sheet for the bag.
  await page.getByRole('link', { name: 'Wiring sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Wiring sheet · Bog hut (HUT-1)' })).toBeVisible();
  await expect(page.getByText('measured: answers over 90 m')).toBeVisible();
  await expect(page.getByText('88 m of cable, 3 leads, 84.2 Ω/km')).toBeVisible();
  expect((await page.pdf({ preferCSSPageSize: true, printBackground: true })).length).toBeGreaterThan(20_000);
  await page.getByRole('link', { name: 'Back to the plan' }).click();
  await expect(page.getByRole('heading', { name: 'Wiring plan', exact: true })).toBeVisible();

  // Wired, lead by lead.
  for (const [sensor, name, serial] of [
    [/^Bed, Noust/, 'Bed', 'S3-0071'],
    [/^Hut air, Quern/, 'Hut air', 'TH3-1301'],
  ] as const) {
    await page.getByRole('button', { name: sensor }).click();
    const connect = page.getByRole('form', { name: `Connect ${name}` });
    await connect.getByLabel('Serial number').fill(serial);
    for (const box of await connect.getByRole('checkbox').all()) await box.check();
    await connect.getByRole('button', { name: 'Connect' }).click();
    await expect(page.getByText('Connected.')).toBeVisible();
  }

  // First contact, first settings, first record.
  await page.getByRole('link', { name: 'Talk to it under Connect' }).click();
  for (const number of [1, 2, 3, 4, 5]) await writeChannel(page, number);
  const soil = page.getByRole('region', { name: 'Sensor S3-0071' });
  await soil.getByRole('button', { name: 'Talk' }).click();
  await expect(soil).toContainText('It answers');
  await page.getByRole('region', { name: 'Sensor TH3-1301' }).getByRole('button', { name: 'Talk' }).click();
  await expect(page.getByRole('region', { name: 'Sensor TH3-1301' })).toContainText('It answers');
  await page.getByRole('navigation', { name: 'This station' }).getByRole('link', { name: 'Station' }).click();
  await page.getByRole('button', { name: 'Collect the record' }).click();
  await expect(page.getByText(/Collected: \d+ values new/)).toBeVisible();

  // A profile of one's own: a copy with another range, tried, saved, and there to be planned with.
  await visit(page, '/catalogue');
  await page.getByLabel('Find').fill('kelda-x1');
  await page.getByRole('button', { name: 'Copy' }).click();
  const profile = page.getByRole('form', { name: 'Device profile' });
  await profile.getByLabel('Code').fill('kelda-x2');
  await profile.getByRole('button', { name: 'Add a step' }).click();
  await profile.getByLabel('Gain').fill('20');
  await profile.getByLabel('Try: V').fill('2.5');
  await expect(profile.getByText('2.5 → 50 V')).toBeVisible();
  await expectTidy(page, 'a device profile');
  await profile.getByRole('button', { name: 'Save as a revision' }).click();
  await page.getByLabel('Find').fill('kelda-x2');
  await expect(page.getByText('kelda-x2 1')).toBeVisible();
});
