import { expect, test, type Page } from '@playwright/test';
import { expectAccessible } from './accessible';
import { choose, signIn, stationId, visit } from './steps';

/** A sensor is measured with a meter, from what the logger shows to what it comes to. */

const form = (page: Page, name: string) => page.getByRole('form', { name, exact: true });
/** Types what a meter shows into the step that stands open. */
async function read(page: Page, name: string, shows: string): Promise<void> {
  const its = form(page, name);
  await its.getByLabel('Meter shows').fill(shows);
  await its.getByRole('button', { name: 'Keep it' }).click();
  await expect(its).toHaveCount(0);
}
/** The same where the step stays open for its other half. */
async function readHalf(page: Page, name: string, shows: string, says: string): Promise<void> {
  const its = form(page, name);
  await its.getByLabel('Meter shows').fill(shows);
  await its.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText(says)).toBeVisible();
}
const matter = (page: Page) => page.getByRole('region', { name: 'What may be the matter' });
async function asFound(page: Page, shows: string): Promise<void> {
  const its = form(page, 'Or as its display shows it');
  await its.getByRole('textbox').fill(shows);
  await its.getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByText(`✓ ${shows}`)).toBeVisible();
}

test('a three-wire PRT that reads 3 °C warm: volts, ohms, the lead of its pair that has risen, repaired, reconnected', async ({
  page,
}) => {
  await signIn(page);
  const pier = await stationId(page, 'SLUICE-2');
  await visit(page, `/stations/${pier}/bench`);
  await page.getByRole('link', { name: /P3-0219/ }).click();
  await expect(page.getByRole('heading', { name: /P3-0219 · Gate steel/ })).toBeVisible();
  // The plan: three pairs, which position, what it means in °C.
  await choose(page, 'The input reads it as', /two wires/);
  const plan = page.getByRole('region', { name: 'Plan' });
  await expect(plan.getByRole('row', { name: /red – white PRT .* 200 Ω/ })).toBeVisible();
  await expect(plan.getByText('proves the others')).toBeVisible();
  await page.getByRole('button', { name: 'Begin to measure' }).click();

  await asFound(page, '13.10');
  await form(page, 'Put in hand').getByLabel('Output in hand').fill('gate heater');
  await page.getByRole('button', { name: 'It is in hand' }).click();
  await page.getByRole('button', { name: 'Go on' }).click();
  // The other sensor stays: the strip is not pulled, only its leads come off.
  await expect(page.getByText('B1-0057 (Upstream tube) pulled, too')).toBeVisible();
  await page.getByRole('button', { name: 'Leads are off' }).click();
  await expect(page.getByText('off-line, the clock runs')).toBeVisible();
  await expect(page.getByRole('complementary', { name: 'Running now' })).toContainText('off-line');

  // Volts first: a voltage stops it, as nothing does not.
  await readHalf(page, 'Volts DC between the leads', '1.2', 'DC 1.2 V');
  await readHalf(page, 'Volts AC between the leads', '0.0', 'AC 0.0');
  await expect(page.getByRole('alert').filter({ hasText: 'Not dead' })).toBeVisible();
  await readHalf(page, 'Volts DC between the leads', '0.001', '✓ dead, AC and DC');
  await read(page, 'Probes together', '0.2');

  // 10 °C are 103.9 Ω (IEC 60751), two leads of 0.5 Ω, 1.2 Ω more in one of the pair: 3 °C.
  const first = form(page, 'red to white');
  await first.getByLabel('Meter shows').fill('1.063');
  await first.getByRole('button', { name: 'Keep it' }).click();
  await expect(first.getByRole('alert')).toContainText('is not what this position shows');
  await first.getByRole('button', { name: 'Read it again' }).click();
  await read(page, 'red to white', '106.3');
  await read(page, 'white to white/red', '2.4');
  await read(page, 'red to white/red', '105.1');
  await expect(
    matter(page)
      .getByRole('paragraph')
      .filter({ hasText: /^The resistance of the lead white has risen by 1\.\d+ ± 0\.\d+ Ω$/ }),
  ).toBeVisible();
  await expect(matter(page).getByText(/re-terminate both of its ends/)).toBeVisible();
  await expectAccessible(page, 'measuring');

  // A way off with leads off is asked for a reason.
  await visit(page, `/stations/${pier}/visit`);
  const open = page.getByRole('region', { name: 'Open here' });
  await expect(open.getByText(/P3-0219 \(Gate steel\): leads off/)).toBeVisible();
  await expect(open.getByText(/measuring not ended/)).toBeVisible();
  await expect(open.getByText(/gate heater in hand: not put back/)).toBeVisible();
  await page.goBack();

  await page.getByRole('button', { name: 'Leads are on again' }).click();
  await expect(page.getByText('✓ on-line')).toBeVisible();
  await asFound(page, '10.10');
  await form(page, 'End of the measurement')
    .getByLabel('What was done about it')
    .fill('cleaned and re-terminated');
  await page.getByRole('button', { name: 'End the measurement' }).click();
  await expect(page.getByRole('region', { name: 'Measured before' })).toContainText('has risen by 1.');

  // The whole story with its sums.
  await visit(page, `/field-book?station=${pier}`);
  await expect(
    page.getByText(/The resistance of the lead white has risen by .* cleaned and re-terminated/).first(),
  ).toBeVisible();
  await expect(page.getByText(/white lead end – white\/red lead end: 2\.2 Ω, expected 2\./)).toBeVisible();
  await expect(page.getByText('As found: the logger shows 13.1 °C')).toBeVisible();
  await expect(page.getByText('After reconnecting: the logger shows 10.1 °C')).toBeVisible();
});

/** Finds the open lead of the first exercise with whatever presses and chooses. */
async function play(
  page: Page,
  press: (name: string) => Promise<void>,
  pick: (label: string, option: string) => Promise<void>,
): Promise<void> {
  await visit(page, '/exercises?n=1');
  await press('Read the meter');
  await expect(page.getByText('is the logger’s excitation still connected?')).toBeVisible();
  await press('Leads off');
  await pick('Dial on', '20 kΩ');
  await pick('Clip A on', 'brown, lead end');
  await pick('Clip B on', 'orange, lead end');
  await press('Read the meter');
  await expect(page.getByRole('status', { name: 'Display' })).toHaveText('OL');
  await pick('Clip B on', 'orange, at the sensor');
  await press('Leads on again');
  await pick('It is', 'the lead orange is open');
  await press('Name it');
  await expect(page.getByRole('region', { name: 'Debrief' })).toContainText('Right');
  await expect(page.getByRole('region', { name: 'Debrief' })).toContainText('tool’s plan takes');
}

test('an exercise is played to its end by mouse, by keyboard and by touch', async ({ page, browser }) => {
  await signIn(page);
  await play(
    page,
    (name) => page.getByRole('button', { name, exact: true }).click(),
    (label, option) => choose(page, label, option),
  );
  await play(
    page,
    async (name) => {
      await page.getByRole('button', { name, exact: true }).focus();
      await page.keyboard.press('Enter');
    },
    async (label, option) => {
      await page.getByRole('combobox', { name: label, exact: true }).focus();
      await page.keyboard.press('Enter');
      const all = page.getByRole('option');
      await expect(all.first()).toBeVisible();
      const wanted = (await all.allTextContents()).indexOf(option);
      await page.keyboard.press('Home');
      for (let i = 0; i < wanted; i++) await page.keyboard.press('ArrowDown');
      await page.keyboard.press('Enter');
      await expect(page.getByRole('listbox')).toHaveCount(0);
    },
  );
  const phone = await browser.newContext({ viewport: { width: 390, height: 844 }, hasTouch: true });
  const held = await phone.newPage();
  await signIn(held);
  await play(
    held,
    (name) => held.getByRole('button', { name, exact: true }).tap(),
    async (label, option) => {
      await held.getByRole('combobox', { name: label, exact: true }).tap();
      await held.getByRole('option', { name: option, exact: true }).tap();
      await expect(held.getByRole('listbox')).toHaveCount(0);
    },
  );
  await phone.close();
});

test('a circuit of one’s own: drawn as it is typed, wrong is said by name, measured, saved; a table of a file makes ohms degrees', async ({
  page,
}) => {
  await signIn(page);
  await visit(page, '/kit/circuits');
  await choose(page, 'Open', 'Half bridge, thermistor below its fixed resistor');
  await page.getByLabel('Ω, line 1', { exact: true }).fill('25o');
  await expect(page.getByText('fixed: its resistance “25o” is no resistance.')).toBeVisible();
  await page.getByLabel('Ω, line 1', { exact: true }).fill('250k');
  await expect(page.getByRole('img', { name: /fixed 250 kΩ, thermistor 100 kΩ/ })).toBeVisible();
  // Directly, or through the fixed resistor: what the meter's limit is in °C.
  const plan = page.getByRole('region', { name: 'Plan' });
  await expect(plan.getByRole('row', { name: /S – G/ })).toContainText('tells it best');

  const table = {
    name: 'table.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from('°C,kΩ\n0,339\n25,100\n20,100\n'),
  };
  await choose(page, 'What it says', 'A table from a CSV file');
  await page.getByLabel('CSV file').setInputFiles(table);
  await expect(page.getByText(/Lines 3 and 4 both say what 100000 is/)).toBeVisible();
  await page
    .getByLabel('CSV file')
    .setInputFiles({ ...table, buffer: Buffer.from('°C,kΩ\n0,339\n25,100\n50,35.4\n') });
  await expect(page.getByText(/3 points: 35400 … 339000 Ω is 50 … 0 °C/)).toBeVisible();

  await choose(page, 'Clip A on', 'S');
  await choose(page, 'Clip B on', 'G');
  await form(page, 'S to G').getByLabel('Meter shows').fill('98k');
  // A pointer that passes over another pair moves no clip, and nothing typed is lost.
  await plan.getByRole('row', { name: /EX – S/ }).hover();
  await form(page, 'S to G').getByRole('button', { name: 'Keep it' }).click();
  await expect(page.getByRole('list', { name: 'What the readings say' })).toContainText(
    /thermistor 98\.\d* ± .* kΩ: 25\.\d+ ± .* °C/,
  );
  await page.getByLabel('Name', { exact: true }).fill('Thermistor of the store');
  await page.getByRole('button', { name: 'Save', exact: true }).click();
  await expect(page.getByText('As revision 1, saved by IK.')).toBeVisible();
  // Kept on this device with every key, what was read too.
  await page.reload();
  await expect(page.getByText('S – G: 98 kΩ on 2 MΩ')).toBeVisible();
  await expectAccessible(page, 'circuit');

  // The same table as a quick sum, and the other way round.
  await visit(page, '/kit/calculator');
  await choose(page, 'Conversion', 'A table from a CSV file');
  await page.getByLabel(/paste it here/).fill('°C;kΩ\n0;339\n25;100\n50;35,4');
  await expect(page.getByText('25 °C', { exact: true })).toBeVisible();
  await page.getByRole('button', { name: /turn round/ }).click();
  await expect(page.getByText('100000 Ω', { exact: true })).toBeVisible();
});
