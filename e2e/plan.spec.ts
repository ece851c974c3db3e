import { expect, test, type Page } from '@playwright/test';
import { expectAccessible } from './accessible';
import { expectTidy } from './layout';
import { choose, firstAdministrator, stack, standHost } from './steps';

/**
 * From an empty database to a first record without a command line: the first account, a site, a station with
 * one of almost every connection, its plan, its sheet, its sensors, its settings.
 */
const ports = () => {
  // The twelfth logger of the stand, two ports to each (simulator/scenario.ts): it stands there and nobody knows it.
  const base = Number(new URL(stack().lab).port);
  return { lab: base, http: base + 1 + 2 * 11, bus: base + 2 + 2 * 11 };
};

/** What hangs there: a bus, a data line, a current loop, a bridge, a contact that hosts a wetness grid, a chain. */
const sensors = [
  ['Noust S3 soil probe', 'Bed', 'S3-0071'],
  ['Quern TH-3 air transmitter', 'Hut air', 'TH3-1301'],
  ['Ness P4 vented level transmitter', 'Drain', 'P4-0902'],
  ['Noust T1 soil thermistor', 'Peat', 'T1-0240'],
  ['Ayre R2 tipping-bucket rain gauge', 'Clearing', 'R2-0131'],
  ['Ayre W1 leaf wetness grid', 'Leaf', 'W1-0023'],
  ['Hask A1 chained air sensor', 'Loft', 'A1-1201'],
  ['Hask A1 chained air sensor', 'Floor', 'A1-1202'],
] as const;

/** Edits, stages and writes the first channel's proposed settings, to be stored every minute. */
async function writeFirst(page: Page): Promise<void> {
  const channel = page.getByRole('region', { name: 'Settings of channel 1', exact: true });
  await channel.getByRole('button', { name: 'Edit' }).click();
  await channel.getByLabel('Storage interval, s').fill('60');
  await channel.getByRole('button', { name: 'Stage' }).click();
  await channel.getByRole('button', { name: 'Write', exact: true }).click();
  await expect(channel).toContainText('Written and read back equal');
}

/** A picture of some terminals, drawn by the browser itself. */
const picture = (page: Page): Promise<number[]> =>
  page.evaluate(async () => {
    const canvas = new OffscreenCanvas(2600, 1300);
    const pen = canvas.getContext('2d')!;
    for (let i = 0; i < 6; i++) {
      pen.fillStyle = ['#b87333', '#f5ecd0', '#5a4030'][i % 3]!;
      pen.fillRect(100 + 400 * i, 200, 200, 900);
    }
    return [...new Uint8Array(await (await canvas.convertToBlob({ type: 'image/jpeg' })).arrayBuffer())];
  });

test.describe.configure({ timeout: 420_000 });
test.use({ actionTimeout: 15_000 });

let empty: { url: string; welcome: string; stop: () => Promise<void> };
test.beforeAll(async () => {
  const { startEmptyApp } = await import('../scripts/stack.mjs');
  empty = await startEmptyApp(`${stack().kind}-plan`, `${standHost()}:${ports().lab}-${ports().bus}`);
});
test.afterAll(() => empty?.stop());

test('a station is set up, planned, checked, wired and read without a command line', async ({ page }) => {
  await firstAdministrator(page, empty, 'stone upon stone');
  // Nothing runs yet, so there is no strip to wait for.
  await page.waitForLoadState('networkidle');
  await page.getByRole('button', { name: /, administrator$/ }).click();
  await page.getByRole('menuitem', { name: 'Sites and stations' }).click();
  await page.getByRole('button', { name: 'Add a station' }).click();
  const form = page.getByRole('form', { name: 'Add a station' });
  await form.getByLabel('Site', { exact: true }).fill('Hut Point');
  await form.getByLabel('Latitude, °').fill('57.45');
  await form.getByLabel('Longitude, °').fill('-17.37');
  await form.getByLabel('Code').fill('hut-1');
  await form.getByLabel('Name', { exact: true }).fill('Bog hut');
  await form.getByLabel('Caution').fill('Soft ground: keep to the boardwalk.');
  await choose(page, 'Logger', 'Brannoch B6 logger');
  await form.getByLabel('Serial number of the logger').fill('BR6-0007');
  await form.getByLabel('Address of the logger').fill(`${standHost()}:${ports().http}`);
  await form.getByLabel('Gateway of RS-485 port 1').fill(`${standHost()}:${ports().bus}`);
  await choose(page, 'Model at RS-485 port 1', 'Brannoch G1 serial gateway');
  await expectTidy(page, 'adding a station');
  await form.getByRole('button', { name: 'Add it' }).click();
  await expect(page.getByRole('heading', { name: 'Wiring plan' })).toBeVisible();

  // The sensors; the plan check says what is missing, propose finds it.
  for (const [model, name] of sensors) {
    await choose(page, 'Model', model);
    await page.getByLabel('Where').first().fill(name);
    await page.getByRole('button', { name: 'Add to the plan' }).click();
  }
  const check = page.getByRole('region', { name: 'Plan check' });
  await expect(check).toContainText('Lead without a place');
  await page.getByRole('button', { name: 'Propose' }).click();
  await expect(page.getByText(`Landed ${sensors.map(([, n]) => n).join(', ')}.`)).toBeVisible();
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
  await expect(page.getByText('revision 1 by TN')).toBeVisible();
  await expectTidy(page, 'the wiring plan');

  // Photographed before anything is touched.
  await page.getByLabel('What it shows, from which side').fill('from the left');
  await page.getByLabel('Pictures from files').setInputFiles([
    { name: 'left.jpg', mimeType: 'image/jpeg', buffer: Buffer.from(await picture(page)) },
    { name: 'notes.jpg', mimeType: 'image/jpeg', buffer: Buffer.from('no picture') },
  ]);
  await expect(page.getByText('notes.jpg is no picture that this browser can read.')).toBeVisible();
  await page.getByRole('button', { name: 'Leave it out' }).click();
  await page.getByRole('button', { name: /^Before touching: from the left/ }).click();
  await expect(page.getByRole('img', { name: 'Before touching: from the left' })).toHaveJSProperty(
    'naturalWidth',
    1920,
  );
  const weighs = ['minor', 'moderate', 'serious', 'critical'] as const;
  await page.getByRole('button', { name: 'Mark a copy' }).click();
  await expect(page.getByRole('button', { name: 'Ring' })).toBeVisible();
  await expectAccessible(page, 'marking a picture', { weighs });
  await expectTidy(page, 'marking a picture');
  await page.getByRole('button', { name: 'Close' }).click();
  await expect(page.getByRole('dialog')).toHaveCount(0);
  await expectAccessible(page, 'the wiring plan', { weighs });

  // The sheet for the bag.
  await page.getByRole('link', { name: 'Wiring sheet' }).click();
  await expect(page.getByRole('heading', { name: 'Wiring sheet · Bog hut (HUT-1)' })).toBeVisible();
  await expect(page.getByText('measured: answers over 90 m')).toBeVisible();
  // 80 m and four times 10 m, and a tenth more.
  await expect(page.getByText('132 m of cable, 3 leads, 84.2 Ω/km')).toBeVisible();
  expect((await page.pdf({ preferCSSPageSize: true, printBackground: true })).length).toBeGreaterThan(20_000);
  await page.getByRole('link', { name: 'Back to the plan' }).click();
  await expect(page.getByRole('heading', { name: 'Wiring plan', exact: true })).toBeVisible();

  // Wired, lead by lead, mounted step by step.
  for (const [model, name, serial] of sensors) {
    await page.getByRole('button', { name: `${name}, ${model}` }).click();
    const connect = page.getByRole('form', { name: `Connect ${name}` });
    await connect.getByLabel('Serial number').fill(serial);
    for (const box of await connect.getByRole('checkbox').all()) await box.check();
    await connect.getByRole('button', { name: 'Connect' }).click();
    await expect(connect).toBeHidden();
    await expect(page.getByText('Connected.')).toBeVisible();
  }

  // First contact, first settings, first record.
  await page.getByRole('link', { name: 'Talk to it under Connect' }).click();
  await writeFirst(page);
  await page.getByRole('button', { name: 'Stage what is proposed for 12 channels' }).click();
  await page.getByRole('button', { name: 'Write all 12 staged' }).click();
  await expect(page.getByText('Done: 12 channels written and read back equal')).toBeVisible();
  for (const [, , serial] of sensors) {
    const sensor = page.getByRole('region', { name: `Sensor ${serial}` });
    await sensor.getByRole('button', { name: 'Talk' }).click();
    await expect(sensor).toContainText('It answers');
  }
  await page.getByRole('navigation', { name: 'This station' }).getByRole('link', { name: 'Station' }).click();
  // Every channel shows what its sensor measures, whatever way it is connected.
  const shown = await page.evaluate(async () => {
    const id = /stations\/([^/]+)/.exec(window.location.pathname)![1];
    const live = (await (await fetch(`/api/v1/stations/${id}/live`)).json()) as {
      channels: { hops: { record?: string } }[];
    };
    return live.channels.filter((c) => c.hops.record).length;
  });
  expect(shown).toBe(13);
  // A value a minute: one has come by now, or comes within that minute.
  await expect(async () => {
    await page.getByRole('button', { name: 'Collect the record' }).click();
    await expect(page.getByText(/Collected: [1-9]\d* values new/)).toBeVisible({ timeout: 8000 });
  }).toPass({ timeout: 90_000 });

  // A profile of one's own: a copy with another range, tried, saved, and there to be planned with.
  await page.goto(`${empty.url}/catalogue`);
  await page.waitForLoadState('networkidle');
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
