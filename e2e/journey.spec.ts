import { expect, test, type Page } from '@playwright/test';
import { expectTidy } from './layout';
import { beginCheck, captureSettled, choose, lab, signIn, stationId, url, visit } from './steps';

/** The journey of a technician in the lighthouse archive, on demo data, step after step. */
test.describe.configure({ mode: 'serial' });
let page: Page;
test.beforeAll(async ({ browser }) => {
  page = await browser.newPage();
});
test.afterAll(() => page.close());

test('2 · signs in; a wrong password is refused in plain words', async () => {
  await page.goto(url());
  await expect(page).toHaveURL(/sign-in/);
  await page.getByLabel('Name').fill('technician');
  await page.getByLabel('Password').fill('not this one');
  await page.getByRole('button', { name: 'Sign in' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'do not belong together' })).toBeVisible();
  await signIn(page);
});

test('3 · Round: sixteen stations of six sites, worst first, with reason and kit', async () => {
  const stops = page.locator('ol > li');
  await expect(stops).toHaveCount(16);
  await expect(stops.first()).toContainText('Weather mast');
  await expect(stops.first()).toContainText(
    /not put back for [23] d; left open [23] d ago by IK: The warden/,
  );
  await expect(stops.nth(1)).toContainText('Drying shed');
  await expect(stops.nth(1)).toContainText('has not moved for 2 d');
  await expect(stops.nth(1)).toContainText('spare sensor known to be good');
  const text = await page.locator('main').innerText();
  for (const planted of [
    'The logger: clock 3 min fast',
    'values missing in 30 d, longest',
    '%RH a month over 5 checks',
    'staged',
  ])
    expect(text).toContain(planted);
  await expect(page.getByText('All five stones stand').first()).toBeVisible();
  await page.getByLabel('Filter').fill('map store');
  await expect(stops).toHaveCount(1);
  await page.getByLabel('Filter').fill('');
});

test('3b · one cause changed changes stone, rank and reason', async () => {
  const id = await stationId(page, 'SLIP-1');
  await visit(page, `/stations/${id}/connect`);
  await lab({ bus: { station: 'SLIP-1', fault: { kind: 'silent', left: 1 } } });
  await page.getByRole('button', { name: 'Talk' }).click();
  await expect(page.getByText('No answer: nothing came within 1000 ms')).toBeVisible();
  await expect(page.getByText(/^Wiring: supply at the sensor/)).toBeVisible();
  await visit(page, '/');
  const stop = page.locator('ol > li', { hasText: 'SLIP-1' });
  await expect(stop).toContainText('did not answer properly (time-out)');
  await expect(stop.getByRole('link', { name: 'wiring: displaced' })).toBeVisible();
  await visit(page, `/stations/${id}/connect`);
  await page.getByRole('button', { name: 'Talk' }).click();
  await expect(page.getByText('It answers')).toBeVisible();
  await visit(page, '/');
  await expect(stop).toContainText('All five stones stand');
});

test('4 · Station: signal paths, hop by hop', async () => {
  await page.getByRole('link', { name: 'Lantern room' }).click();
  await expect(page.getByRole('heading', { name: 'Lantern room', level: 1 })).toBeVisible();
  for (const hop of ['element', 'leads', 'input', 'conversion', 'adjustment', 'record'])
    await expect(page.getByRole('link', { name: hop, exact: true }).first()).toBeVisible();
  await expect(page.getByText('RS-485 port 1 · ID 1 · 19200 8E1').first()).toBeVisible();
  await expect(page.getByText('What happened here')).toBeVisible();
});

test('5a · Connect: an ID in use and unequal parameters are refused, then the free ID is taken', async () => {
  await page.getByRole('navigation', { name: 'This station' }).getByRole('link', { name: 'Connect' }).click();
  await page.getByRole('button', { name: 'Add a transmitter' }).click();
  await expect(page.getByLabel('ID on the bus')).toHaveValue('2');
  await page.getByLabel('Serial number').fill('TH3-1240');
  await page.getByLabel('Zone').fill('Chart drawers');
  await page.getByLabel('ID on the bus').fill('1');
  await page.getByRole('button', { name: 'Connect it' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'ID 1 is in use' })).toContainText(
    'Use a free one, for example 2',
  );
  await page.getByLabel('ID on the bus').fill('300');
  await page.getByRole('button', { name: 'Connect it' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'outside 1–247' })).toBeVisible();
  await page.getByLabel('ID on the bus').fill('2');
  await choose(page, 'Speed', '9600');
  await page.getByRole('button', { name: 'Connect it' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'speed is 9600' })).toContainText(
    'Set both ends equal',
  );
  await choose(page, 'Speed', '19200');
  await page.getByLabel('Cable, m one way').fill('4000');
  await page.getByRole('button', { name: 'Connect it' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'it takes 9–28 V' })).toBeVisible();
  await page.getByLabel('Cable, m one way').fill('18');
  for (const lead of ['brown', 'white', 'green', 'yellow', 'bare'])
    await page.getByRole('checkbox', { name: new RegExp(`^${lead} is on`) }).check();
  await page.getByRole('button', { name: 'Connect it' }).click();
  await expect(page.getByRole('region', { name: 'Sensor TH3-1240' })).toContainText('brown → 1 V+');
});

test('5b · Talk: frames in hex beside the decoded values; each fault says what to look at first', async () => {
  const sensor = page.getByRole('region', { name: 'Sensor TH3-1240' });
  await sensor.getByRole('button', { name: 'Talk' }).click();
  await expect(sensor).toContainText('02 04 00 00 00 02 71 F8');
  await expect(sensor).toContainText(/Air temperature: register 0 = \d+ → \d+\.\d\d °C/);
  for (const [kind, title] of [
    ['crc', 'Checksum does not fit'],
    ['exception', 'The sensor understood and refused'],
    ['half', 'The answer broke off'],
    ['late', 'No answer: an answer came only after'],
  ] as const) {
    await lab({ bus: { station: 'ARCH-1', fault: { kind, left: 1, delay: 1300 } } });
    await sensor.getByRole('button', { name: 'Talk' }).click();
    await expect(sensor).toContainText(title);
  }
  await sensor.getByRole('button', { name: 'Talk' }).click();
  await expect(sensor).toContainText('It answers');
});

test('5c · settings are staged, written, read back; a difference is shown field by field', async () => {
  const channel = page.getByRole('region', { name: 'Settings of channel 4' });
  await channel.getByRole('button', { name: 'Edit' }).click();
  await channel.getByLabel('Storage interval, s').fill('700');
  await channel.getByRole('button', { name: 'Stage' }).click();
  await expect(channel.getByRole('alert')).toContainText('Use 675 or 720 s');
  await channel.getByLabel('Storage interval, s').fill('600');
  await channel.getByLabel('Description').fill('Chart drawers humidity, top');
  await channel.getByRole('button', { name: 'Stage' }).click();
  await expect(channel).toContainText('Staged, not written');
  await expect(page.getByRole('complementary', { name: 'Running now' })).toContainText(
    'ARCH-1: 1 staged, not written',
  );
  await channel.getByRole('button', { name: 'Write', exact: true }).click();
  await expect(channel.getByRole('alert')).toContainText(
    'description: wrote “Chart drawers humidity, top”, the logger holds “Chart drawers humidity, ”',
  );
  await channel.getByRole('button', { name: 'Edit' }).click();
  await channel.getByLabel('Description').fill('Chart drawers humidity');
  await channel.getByRole('button', { name: 'Stage' }).click();
  await channel.getByRole('button', { name: 'Write', exact: true }).click();
  await expect(channel).toContainText('Written and read back equal');
  const temperature = page.getByRole('region', { name: 'Settings of channel 3' });
  await temperature.getByRole('button', { name: 'Edit' }).click();
  await temperature.getByRole('button', { name: 'Stage' }).click();
  await temperature.getByRole('button', { name: 'Write', exact: true }).click();
  await expect(temperature).toContainText('Written and read back equal');
});

test('5d · two people edit the same settings: the second is told and sees the difference', async ({
  browser,
}) => {
  const other = await browser.newPage();
  await signIn(other, 'admin');
  await visit(other, page.url());
  const [mine, theirs] = [page, other].map((p) => p.getByRole('region', { name: 'Settings of channel 1' }));
  for (const section of [mine!, theirs!]) await section.getByRole('button', { name: 'Edit' }).click();
  await theirs!.getByLabel('Storage interval, s').fill('900');
  await theirs!.getByRole('button', { name: 'Stage' }).click();
  await expect(theirs!).toContainText('Staged, not written');
  await mine!.getByLabel('Storage interval, s').fill('1200');
  await mine!.getByRole('button', { name: 'Stage' }).click();
  await expect(mine!.getByRole('alert')).toContainText('AR changed these settings meanwhile');
  await expect(mine!.getByRole('alert')).toContainText('storageInterval: yours “1200”, theirs “900”');
  await mine!.getByRole('button', { name: 'Keep theirs' }).click();
  await mine!.getByRole('button', { name: 'Discard' }).click();
  await expect(mine!).not.toContainText('Staged, not written');
  await other.close();
});

test('6a · Check: a good sensor agrees and is left alone; a slipped digit is caught', async () => {
  await beginCheck(page, 'ARCH-1', /Chart drawers air temp/, 'Chart drawers');
  await expect(page.getByText('1.5 : 1, the reference is only somewhat better')).toBeVisible();
  await expect(page.getByRole('status', { name: 'Settling' })).toContainText(/Watching|Settled/);
  await page.getByLabel('Reference reads').fill('160');
  await page.getByRole('button', { name: 'Capture typed' }).click();
  await expect(
    page.getByRole('alert').filter({ hasText: 'outside what the instrument can show' }),
  ).toContainText('Did you mean 16 °C');
  await page.getByRole('button', { name: 'Use 16 °C' }).click();
  await expect(page.getByLabel('Reference reads')).toHaveValue('16');
  await page.getByLabel('Reference reads').fill('');
  for (let i = 1; i <= 3; i++) await captureSettled(page, new RegExp(`^Capture ${i} of 3: take`));
  await expect(page.getByRole('status', { name: 'Verdict' })).toContainText('They agree: leave it alone');
  await expect(page.getByText('GUM (judges)')).toBeVisible();
  await expect(page.getByText(/Eₙ =/)).toBeVisible();
  await page.getByRole('button', { name: 'Close the check' }).click();
  await expect(page.getByText('Closed')).toBeVisible();
});

test('6b · Check: the drifted humidity is adjusted in the logger, read back and verified', async () => {
  await beginCheck(page, 'ARCH-2', /Map store humidity/, 'Map store');
  for (let i = 1; i <= 3; i++) await captureSettled(page, new RegExp(`^Capture ${i} of 3: take`));
  const verdict = page.getByRole('status', { name: 'Verdict' });
  await expect(verdict).toContainText(/Adjust by −[5-7]\.\d %RH/);
  await expect(page.getByText(/^dew point, sensor/).first()).toBeVisible();
  await verdict.getByRole('button', { name: /^Write −/ }).click();
  await expect(verdict).toContainText('Verify the adjustment');
  await expect(page.getByText(/Entered −[5-7]\.\d %RH \(added\); it read/)).toBeVisible();
  await captureSettled(page, /^Capture a verification: take/);
  await expect(verdict).toContainText('It holds');
  await expectTidy(page, 'an adjusted humidity check');
  await verdict.getByRole('button', { name: 'Close the check' }).click();
  await expect(page.getByText('adjusted', { exact: true })).toBeVisible();
  await visit(page, '/');
  await expect(page.locator('ol > li', { hasText: 'ARCH-2' })).toContainText('All five stones stand');
});

test('6c · Check: a device that does not take the offset does not converge, and the next step is named', async () => {
  await lab({
    sensor: { serial: 'TH3-1102', quantity: 'humidity', truth: { bias: 7, noise: 0.04 } },
    logger: { station: 'KELP-1', offsetResponse: { channel: 3, value: 0.1 } },
  });
  await beginCheck(page, 'KELP-1', /Shed air humidity/, 'Shed air', {
    instrument: /HX-512/,
    reason: 'the other one is at the archive',
  });
  await expect(page.getByText('Used all the same:')).toBeVisible();
  await page.getByLabel('Why it is abandoned').fill('fetched the good one after all');
  await page.getByRole('button', { name: 'Abandon the check' }).click();
  await expect(page.getByText('abandoned', { exact: true })).toBeVisible();
  await beginCheck(page, 'KELP-1', /Shed air humidity/, 'Shed air');
  for (let i = 1; i <= 3; i++) await captureSettled(page, new RegExp(`^Capture ${i} of 3: take`));
  const verdict = page.getByRole('status', { name: 'Verdict' });
  await verdict.getByRole('button', { name: /^Write −/ }).click();
  await captureSettled(page, /^Capture a verification: take/);
  await expect(verdict).toContainText('It does not converge');
  await expect(verdict).toContainText('swap in one known to be good');
  await verdict.getByRole('button', { name: 'Close the check' }).click();
  await expect(page.getByText('does-not-converge', { exact: true })).toBeVisible();
});

test('6d · Check: breath on the sensor: moving, with where it is heading', async () => {
  await lab({
    sensor: {
      serial: 'TH3-1188',
      quantity: 'humidity',
      truth: { noise: 0.3, disturbed: { at: Date.now(), size: 12, tau: 15 } },
    },
  });
  await beginCheck(page, 'ARCH-1', /Lantern room humidity/, 'Lantern room');
  await expect(page.getByRole('status', { name: 'Settling' })).toContainText(
    /Moving.*heading for \d+\.\d+ ± /s,
    { timeout: 40_000 },
  );
  await page.getByRole('button', { name: /^Capture 1 of 3: take/ }).click();
  await expect(page.getByRole('status', { name: 'Verdict' })).toContainText('Not settled');
  await page.getByLabel('Why it is abandoned').fill('stood too close');
  await page.getByRole('button', { name: 'Abandon the check' }).click();
  await expect(page.getByText('abandoned', { exact: true })).toBeVisible();
});

test('7 · Collect: only what is new; the trace with its markers, window in the address, CSV', async () => {
  const id = await stationId(page, 'ARCH-2');
  await visit(page, `/stations/${id}`);
  await page.getByRole('button', { name: 'Collect the record' }).click();
  await expect(page.getByText(/Collected: \d+ values new/)).toBeVisible();
  await page.getByRole('link', { name: 'record', exact: true }).nth(1).click();
  await expect(page.getByRole('img', { name: /^Trace of Map store humidity/ })).toBeVisible();
  await expect(page.getByRole('list', { name: 'What was done in this window' })).toContainText(
    'Adjusted in the device',
  );
  await page.getByRole('button', { name: '90 d' }).click();
  await expect(page).toHaveURL(/from=.*until=/);
  await expect(page.getByText('drawn by 2 h')).toBeVisible();
  await expect(page.getByRole('list', { name: 'What was done in this window' })).toContainText(
    'Check: agree',
  );
  const address = page.url();
  await page.keyboard.press('ArrowLeft');
  await expect(page).not.toHaveURL(address);
  const download = page.waitForEvent('download');
  await visit(page, address);
  await page.getByRole('link', { name: 'Download CSV' }).click();
  const file = await download;
  expect(file.suggestedFilename()).toBe('arch-2-map-store-humidity.csv');
  const text = await (await import('node:fs/promises')).readFile((await file.path())!, 'utf8');
  expect(text.split('\r\n')[0]).toBe(
    'logger_stamp_utc,corrected_stamp_utc,clock_run,logged_humidity,corrected_humidity,marks',
  );
  expect(text.split('\r\n').length).toBeGreaterThan(12_000);
});

test('7b · leads off: the strip says so on every view, the trace shows the window', async () => {
  const id = await stationId(page, 'ARCH-1');
  await visit(page, `/stations/${id}/connect`);
  const sensor = page.getByRole('region', { name: 'Sensor TH3-1188' });
  await sensor.getByRole('button', { name: 'Leads off' }).click();
  await expect(page.getByRole('complementary', { name: 'Running now' })).toContainText(
    'Lantern room humidity off-line',
  );
  await sensor.getByRole('button', { name: 'Back on-line' }).click();
  await expect(page.getByRole('complementary', { name: 'Running now' })).not.toContainText('off-line');
  await visit(page, `/stations/${id}`);
  await page.getByRole('link', { name: 'record', exact: true }).first().click();
  await expect(page.getByRole('list', { name: 'What was done in this window' })).toContainText(
    'off-line, leads off for work',
  );
});

test('8 · Field book: every step left its line; a note with its own time', async () => {
  await page.getByRole('navigation', { name: 'Views' }).getByRole('link', { name: 'Field book' }).click();
  const book = page.locator('main');
  for (const line of [
    'Connected Quern TH-3 air transmitter TH3-1240',
    'Wrote settings of channel 4',
    'Began a check of Map store humidity',
    'Adjusted channel 2 in the device',
    'Closed the check of Map store humidity: adjusted and verified',
    'Collected the record:',
    'TH3-1188 off-line: leads off for work',
  ])
    await expect(book.getByText(line).first()).toBeVisible();
  await expect(book.getByText(/as found \+\d\.\d %RH, as left/).first()).toBeVisible();
  await page.getByRole('button', { name: 'Stamp the time' }).click();
  await page.getByRole('textbox', { name: 'Note' }).fill('Window on the landing was open');
  await page.getByRole('button', { name: 'Add note' }).click();
  await expect(book.getByText('Window on the landing was open')).toBeVisible();
});
