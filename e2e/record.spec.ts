import { readFileSync, writeFileSync } from 'node:fs';
import { expect, test, type Page } from '@playwright/test';
import { awake, choose, signIn, stationId, visit, stack } from './steps';

/** Records in: a public file through the interface, the trace, marks and corrections, approval, the list. */
test.describe.configure({ mode: 'serial' });
const weather = 'node_modules/vega-datasets/data/seattle-weather-hourly-normals.csv';
let page: Page;
test.beforeAll(async ({ browser }) => {
  page = await browser.newPage();
  await signIn(page);
});
test.afterAll(() => page.close());

const result = () => page.getByRole('status', { name: 'Result of the import' });
/** Looks at every frame: an import may be half through before a look now and then sees it. */
const underWay = () => page.getByText(/^Read \d+ rows/).waitFor();
const outcome = () => page.getByRole('status', { name: 'What would become of it' });
async function chooseFile(file: string | { name: string; mimeType: string; buffer: Buffer }): Promise<void> {
  await awake(page);
  await page.getByLabel('Record file').setInputFiles(file);
}
async function newChannels(zone: string): Promise<void> {
  for (const [column, quantity] of [
    ['pressure', 'Air pressure'],
    ['temperature', 'Air temperature'],
    ['wind', 'Wind speed'],
  ] as const) {
    await choose(page, `Channel for ${column}`, 'a new channel');
    await choose(page, `Quantity of ${column}`, quantity);
    await page.getByLabel(`Zone of ${column}`).fill(zone);
  }
}

test('import: the public weather file at a fixed offset, 26 277 values', async () => {
  await visit(page, `/stations/${await stationId(page, 'MOSS-2')}/import`);
  await chooseFile(weather);
  await newChannels('Elsewhere');
  await page.getByLabel('Offset, min').fill('-480');
  await expect(page.getByText('UTC −08:00')).toBeVisible();
  await expect(outcome()).toContainText('26277 values from 8759 rows, 0 missing, 0 refused');
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(result()).toContainText('26277', { timeout: 40_000 });
  await expect(result()).toContainText('values new');
  await expect(page.getByText('wholly there: 26277 values new')).toBeVisible();
});

test('import: again, 0 new and 26 277 identical, with the layout remembered', async () => {
  await page.reload();
  await chooseFile(weather);
  await expect(page.getByText('A file of this layout was imported here before')).toBeVisible();
  await expect(page.getByLabel('Offset, min')).toHaveValue('-480');
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(result()).toContainText('26277identical with what is stored', { timeout: 40_000 });
  await expect(result()).toContainText('0 + 26277 + 0 + 0 + 0, from 8759 rows');
});

test('import: withdrawn as a whole its values are read by nobody, until it is brought back', async () => {
  const lastValues = () =>
    page.evaluate(async () => {
      const list = (await (await fetch('/api/v1/verify?text=Elsewhere')).json()) as {
        rows: { name: string; lastValue: number | null }[];
      };
      return list.rows.map((r) => r.lastValue);
    });
  const before = await lastValues();
  expect(before).toHaveLength(3);
  expect(before).not.toContain(null);
  await page.getByRole('button', { name: 'Withdraw it' }).click();
  await page.getByLabel('Why it is withdrawn').fill('it belongs to another station');
  await page.getByRole('button', { name: 'Withdraw', exact: true }).click();
  await expect(page.getByText('read by nobody: it belongs to another station')).toBeVisible({
    timeout: 40_000,
  });
  expect(await lastValues()).toEqual([null, null, null]);
  await page.getByRole('button', { name: 'Bring it back' }).click();
  await page.getByLabel('Why it comes back').fill('it is of this one after all');
  await page.getByRole('button', { name: 'Bring back', exact: true }).click();
  await expect(page.getByText('wholly there: 26277 values new')).toBeVisible({ timeout: 40_000 });
  expect(await lastValues()).toEqual(before);
});

test('import: one altered value is one conflict, shown, and nothing changes', async () => {
  const text = readFileSync(weather, 'utf8').replace(/^(2010-06-01T12:00:00),[\d.]+/m, '$1,999.9');
  await chooseFile({ name: 'altered.csv', mimeType: 'text/csv', buffer: Buffer.from(text) });
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(result()).toContainText('1in conflict', { timeout: 40_000 });
  await expect(result()).toContainText('the file says 999.9; the stored value stays');
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download all that was not taken' }).click();
  const file = await download;
  expect(readFileSync((await file.path())!, 'utf8')).toMatch(/,conflict,"stored is/);
});

test('import: in a summer-time zone the row that never was is named before anything is sent', async () => {
  await chooseFile(weather);
  await newChannels('Elsewhere, local');
  await choose(page, 'Times belong to', 'a time zone with its summer time');
  await page.getByLabel('Time zone').fill('America/Los_Angeles');
  await expect(outcome()).toContainText('2010-03-14T02:00:00 never was in America/Los_Angeles');
  await expect(outcome()).toContainText('2010-11-07T01:00:00 was twice');
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(result()).toContainText('2refused', { timeout: 40_000 });
});

test('import: what is no record says why, in the browser, and nothing is sent', async () => {
  const refused = page.getByRole('alert').filter({ hasText: /\S/ });
  for (const [name, buffer, says] of [
    ['empty.csv', Buffer.from(''), 'empty.csv is empty'],
    ['picture.png', Buffer.from([0x89, 0x50, 0x4e, 0x47, 0, 0, 0, 13]), 'is no text'],
    [
      'letter.txt',
      Buffer.from('Dear all,\nthe logger was moved.\n'),
      'holds no table with a column of times',
    ],
  ] as const) {
    await chooseFile({ name, mimeType: 'text/csv', buffer });
    await expect(refused.filter({ hasText: says })).toBeVisible();
  }
  const twoWays = 'time,temperature\n03/04/2026 10:00,7.1\n05/04/2026 10:00,7.2\n';
  await chooseFile({ name: 'two-ways.csv', mimeType: 'text/csv', buffer: Buffer.from(twoWays) });
  await expect(page.getByText('could be either: say which')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Import', exact: true })).toBeDisabled();
  await choose(page, 'Times are written', 'day.month.year hour:minute');
  await expect(outcome()).toContainText('2 values from 2 rows');
});

test('import: a file for the wrong station is said to be unlike, and stored only when stood by', async () => {
  const rows = Array.from(
    { length: 40 },
    (_, i) => `2026-01-01T${String(i % 24).padStart(2, '0')}:${i < 24 ? '00' : '30'}:00Z,${80 + (i % 5)}`,
  );
  await chooseFile({
    name: 'boiler.csv',
    mimeType: 'text/csv',
    buffer: Buffer.from(`time,temperature\n${rows.join('\n')}\n`),
  });
  await choose(page, 'Channel for temperature', /Mast 6 m air temp/);
  await expect(outcome()).toContainText('unlike everything stored for this channel');
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'unlike everything stored here' })).toBeVisible();
  await expect(page.getByText(/boiler\.csv/).last()).toBeVisible();
  await page.getByRole('button', { name: 'It is the right station: import it all the same' }).click();
  await expect(result()).toContainText('40values new', { timeout: 40_000 });
});

test('trace: drag zooms, the wheel and keys move it, a twin is laid over it; the address follows', async () => {
  const id = await stationId(page, 'ARCH-2');
  await visit(page, `/stations/${id}`);
  await page.getByRole('link', { name: 'record', exact: true }).nth(1).click();
  const plot = page.getByRole('img', { name: /^Trace of/ });
  await expect(plot).toBeVisible();
  await page.getByRole('button', { name: '90 d' }).click();
  await expect(page).toHaveURL(/from=/);
  const width = () => {
    const p = new URL(page.url()).searchParams;
    return Date.parse(p.get('until')!) - Date.parse(p.get('from')!);
  };
  const ninety = width();
  const box = (await plot.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.4, box.y + 150);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.6, box.y + 150, { steps: 6 });
  await page.mouse.up();
  await expect.poll(width).toBeLessThan(ninety / 3);
  const dragged = width();
  await page.mouse.move(box.x + box.width * 0.5, box.y + 150);
  await page.mouse.wheel(0, 300);
  await expect.poll(width).toBeGreaterThan(dragged);
  const wheeled = width();
  await page.keyboard.press('+');
  await expect.poll(width).toBeLessThan(wheeled);
  await page.goBack();
  await choose(page, 'Overlay a channel', /ARCH-1 · Lantern room/);
  await expect(page).toHaveURL(/with=/);
  await expect(page.getByRole('button', { name: /^Take off 2/ })).toBeVisible();
  const address = page.url();
  await visit(page, address);
  await expect(page.getByRole('button', { name: /^Take off 2/ })).toBeVisible();
  const download = page.waitForEvent('download');
  await page.getByRole('link', { name: 'Download CSV' }).click();
  const text = readFileSync((await (await download).path())!, 'utf8');
  for (const drawn of ['ARCH-2,Map store humidity', 'ARCH-1,Lantern room'])
    expect(text).toContain(`\r\n${drawn}`);
  await page.getByRole('button', { name: /^Take off 2/ }).click();
  await expect(page).not.toHaveURL(/with=/);
});

test('trace: a correction between two checks is previewed, laid, and taken back; a span is marked', async () => {
  // From the newest value backwards: the window of the step before may end anywhere.
  await visit(page, new URL(page.url()).pathname);
  await page.getByRole('button', { name: '90 d' }).click();
  await page.getByRole('tab', { name: 'Correct' }).click();
  await page.getByRole('button', { name: 'Preview pro-rated' }).last().click();
  await expect(page.getByLabel('and at last, %RH')).toHaveValue(/^-/);
  await page.getByRole('button', { name: 'Lay it over the record' }).click();
  await page.getByRole('tab', { name: 'What lies over it' }).click();
  const lying = page.getByRole('list', { name: 'What was done in this window' });
  await expect(lying).toContainText('correction, drift between the checks of');
  await page.getByRole('button', { name: /^Take back: drift/ }).click();
  await page.getByLabel('Why it is taken back').fill('the first check was doubtful');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect(lying).not.toContainText('drift between the checks');
  const plot = page.getByRole('img', { name: /^Trace of/ });
  await page.getByRole('button', { name: 'Drag chooses a span' }).click();
  const box = (await plot.boundingBox())!;
  await page.mouse.move(box.x + box.width * 0.7, box.y + 120);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width * 0.75, box.y + 120, { steps: 4 });
  await page.mouse.up();
  await expect(page.getByText(/^Span \d{4}/)).toBeVisible();
  await page.getByRole('tab', { name: 'Mark a span' }).click();
  await page.getByLabel('Reason').fill('dehumidifier was off');
  await page.getByRole('button', { name: 'Mark the span' }).click();
  await page.getByRole('tab', { name: 'What lies over it' }).click();
  await expect(lying).toContainText('flag, dehumidifier was off');
});

test('approval: a reviewer signs the window; a later mark reopens it on the list', async ({ browser }) => {
  const reviewer = await browser.newPage();
  await signIn(reviewer, 'reviewer');
  await visit(reviewer, page.url());
  await reviewer.getByRole('tab', { name: 'Approve' }).click();
  await reviewer.getByRole('button', { name: 'Approve', exact: true }).click();
  await expect(reviewer.getByText(/Last approved by/)).toContainText('It stands.');
  await visit(reviewer, '/verify?text=map+store+humidity');
  const row = reviewer.getByRole('row', { name: /Map store humidity/ });
  await expect(row).toContainText('MO, until');
  await expect(row).not.toContainText('reopened');
  await page.getByRole('tab', { name: 'Mark a span' }).click();
  await choose(page, 'Mark it', 'failed');
  await page.getByLabel('Reason').fill('another look is needed');
  await page.getByRole('button', { name: 'Mark the span' }).click();
  await expect(page.getByLabel('Reason')).toHaveValue('');
  await reviewer.reload();
  await expect(row).toContainText('reopened');
  await reviewer.close();
});

test('verify: worst first, filtered by word and text, and one key to the place that matters', async () => {
  await visit(page, '/verify');
  const rows = page.getByRole('table', { name: 'Channels' }).locator('tbody tr');
  await expect(rows.first()).toContainText('stuck');
  await expect(rows.first()).toContainText('Auger outlet moisture');
  await page.getByRole('button', { name: /^gaps/ }).click();
  await expect(rows.first()).toContainText('values missing');
  await page.getByRole('button', { name: /^gaps/ }).click();
  await page.getByLabel('Filter').fill('channel level');
  await expect(rows).toHaveCount(1);
  await page.getByLabel('Filter').fill('');
  await page.getByRole('button', { name: 'Missing' }).click();
  await expect(page).toHaveURL(/sort=missing/);
  await expect(rows.first()).toContainText('HATCH-1');
  await visit(page, '/verify');
  await expect(rows.first()).toContainText('stuck');
  await page.keyboard.press('j');
  await page.keyboard.press('Enter');
  await expect(page).toHaveURL(/\/trace\/.*from=/);
  await expect(page.getByRole('heading', { name: 'Auger outlet moisture' })).toBeVisible();
  await expect(page.getByRole('list', { name: 'What was done in this window' })).toContainText('flat line');
});

test('quality tests: thresholds are narrowed, the record is tested again, a bad one is refused', async () => {
  const id = await stationId(page, 'SLIP-1');
  await visit(page, `/stations/${id}`);
  await page.getByRole('link', { name: 'record', exact: true }).first().click();
  await page.getByRole('tab', { name: 'Quality tests' }).click();
  await page.getByLabel('User range: from').fill('5');
  await page.getByLabel('User range: to').fill('1');
  await page.getByRole('button', { name: 'Save the thresholds' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'lower end must be below' })).toBeVisible();
  await page.getByLabel('User range: from').fill('0');
  await page.getByRole('button', { name: 'Save the thresholds' }).click();
  await expect(page.getByText('Saved.')).toBeVisible();
  await page.getByRole('button', { name: 'Test the record again' }).click();
  await expect(page.getByText(/Tested: \d+ values flagged in \d+ spans/)).toBeVisible();
});

test('clock: the fast one is set, a new run begins, and the drift before it can be taken out', async () => {
  const id = await stationId(page, 'SLUICE-1');
  await visit(page, `/stations/${id}/connect#clock`);
  const clock = page.getByRole('region', { name: 'Logger clock' });
  await expect(clock).toContainText('3 min fast');
  await clock.getByRole('button', { name: 'Compare now' }).click();
  await clock.getByRole('button', { name: 'Correct the drift' }).click();
  await expect(clock.getByRole('button', { name: 'Correct the drift' })).toHaveCount(0);
  await clock.getByRole('button', { name: 'Set the clock' }).click();
  await expect(clock).toContainText('Clock run 1 began');
  await expect(clock).toContainText('Right');
  await visit(page, '/');
  await expect(page.locator('ol > li', { hasText: 'SLUICE-1' })).not.toContainText('Logger clock');
});

test('a long file shows how far it is and can be stopped; nothing of it is kept', async () => {
  const start = Date.UTC(2012, 0, 1);
  const file = test.info().outputPath('long.csv');
  const lines = Array.from(
    { length: 500_000 },
    (_, i) => `${new Date(start + i * 60_000).toISOString()},${(i % 90) / 10}`,
  );
  writeFileSync(file, `time,temperature\n${lines.join('\n')}\n`);
  await visit(page, `/stations/${await stationId(page, 'MOSS-2')}/import`);
  await chooseFile(file);
  await choose(page, 'Channel for temperature', 'a new channel');
  await page.getByLabel('Zone of temperature').fill('Stopped');
  await expect(outcome()).toContainText('500000 values', { timeout: 40_000 });
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await underWay();
  await page.getByRole('button', { name: 'Stop', exact: true }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'The import was cancelled' })).toBeVisible();
  await expect(page.getByText('wholly absent: The import was cancelled.')).toBeVisible();
});

test('the application killed in the middle of it: the page says so, the import is wholly absent, and goes through again', async () => {
  const { killApp } = await import('../scripts/stack.mjs');
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await underWay();
  const startAgain = await killApp(stack().kind);
  await expect(
    page.getByRole('alert').filter({ hasText: 'The application cannot be reached just now' }),
  ).toContainText('What is on this screen stays');
  await startAgain();
  await page.getByRole('button', { name: 'Import', exact: true }).click();
  await expect(result()).toContainText('500000values new', { timeout: 60_000 });
  await expect(page.getByText('wholly there: 500000 values new')).toBeVisible();
  await expect(page.getByText('wholly absent: The process that ran it stopped')).toBeVisible();
});
