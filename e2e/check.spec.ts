import { expect, test, type Locator, type Page } from '@playwright/test';
import { expectTidy } from './layout';
import { captureSettled, choose, counted, signIn, stationId, url, visit } from './steps';

/** Checks by their procedures: one that waits for its reference, and how little a plain one asks for. */

const begin = async (page: Page, code: string, channel: RegExp, zone: string, how: string) => {
  await visit(page, `/stations/${await stationId(page, code)}/check`);
  await choose(page, 'Channel', channel);
  await choose(page, 'Zone you stand in', zone);
  await choose(page, 'How', how);
};
const verdict = (page: Page): Locator => page.getByRole('status', { name: 'Verdict' });

test('a sample is drawn at the auger; the browser is closed; its tests come in on another device, and decide', async ({
  browser,
}) => {
  const shed = await browser.newPage();
  await signIn(shed);
  await begin(shed, 'KELP-1', /Auger outlet moisture/, 'Auger outlet', 'Samples against a bench tester');
  await expect(shed.getByText('lock out before hands go in').first()).toBeVisible();
  await shed.getByRole('button', { name: /Samples against a bench tester: \d steps/ }).click();
  await expect(shed.getByText('A single grab is one spot of the stream.')).toBeVisible();
  await expect(shed.getByRole('button', { name: 'Begin' })).toBeDisabled();
  await shed.getByLabel('Material').fill('sugar kelp, whole');
  await expect(shed.getByText(/Last checked on sugar kelp, chopped, .* ends with the change/)).toBeVisible();
  await shed.getByRole('button', { name: 'Begin' }).click();
  const capture = shed.getByRole('button', { name: 'Capture 1 of 2' });
  await expect(capture).toBeVisible();
  // Too early: its window was not watched.
  await capture.click();
  await expect(
    shed.getByRole('alert').filter({ hasText: 'Its average over 30 s is not known' }),
  ).toBeVisible();
  await shed.waitForTimeout(30_000);
  await capture.click();
  const first = shed.getByRole('region', { name: 'Sample 1' });
  await expect(first).toContainText(/averaged 30 s at \d+\.\d %\. 0 of 3 tests so far/);
  const held = Number(/averaged 30 s at ([\d.]+)/.exec(await first.innerText())![1]);
  await shed.waitForTimeout(1000);
  await shed.getByRole('button', { name: 'Capture 2 of 2' }).click();
  await expect(shed.getByRole('region', { name: 'Sample 2' })).toBeVisible();
  const address = shed.url();
  await shed.close();

  const bench = await browser.newPage({ viewport: { width: 390, height: 844 } });
  await signIn(bench, 'admin');
  await visit(bench, address);
  for (const sample of ['Sample 1', 'Sample 2'])
    for (const off of [-0.1, 0.1, 0.2]) {
      const region = bench.getByRole('region', { name: sample });
      await region.getByLabel('Test', { exact: true }).fill((held + off).toFixed(1));
      await region.getByRole('button', { name: 'Add' }).first().click();
      await expect(region.getByText(`${(held + off).toFixed(1)} %`, { exact: true })).toBeVisible();
    }
  await expect(verdict(bench)).toContainText('They agree: leave it alone');
  await expect(verdict(bench)).toContainText(/Proved (at|between)/);
  await expectTidy(bench, 'samples and their tests on a phone');
  await verdict(bench).getByRole('button', { name: 'Close the check' }).click();
  await expect(bench.getByText('agree', { exact: true })).toBeVisible();
  await bench.close();
});

test('from the Round to a closed check of a temperature: ten presses at most', async ({ browser }) => {
  const page = await browser.newPage();
  await signIn(page);
  const count = counted();
  const { press } = count;
  await press(page.getByRole('link', { name: 'Map store', exact: true }));
  await press(page.getByRole('navigation', { name: 'This station' }).getByRole('link', { name: 'Check' }));
  await press(page.getByRole('combobox', { name: 'Zone you stand in' }));
  await press(page.getByRole('option', { name: 'Map store' }));
  await press(page.getByRole('button', { name: 'Begin' }));
  await expect(page).toHaveURL(new RegExp(`${url()}/stations/[^/]+/check/[^/]+`));
  // A minute is watched where nobody says otherwise.
  await expect(page.getByRole('status', { name: 'Settling' }).getByText('Settled')).toBeVisible({
    timeout: 120_000,
  });
  for (let i = 1; i <= 3; i++) {
    await captureSettled(page, new RegExp(`^Capture ${i} of 3: take`));
    count.presses++;
  }
  await expect(verdict(page)).toContainText('They agree: leave it alone');
  await press(verdict(page).getByRole('button', { name: 'Close the check' }));
  await expect(page.getByText('Closed')).toBeVisible();
  expect(count.presses).toBeLessThanOrEqual(10);
  await page.close();
});

test('three zones of temperature, humidity and carbon dioxide, two handhelds: sixty presses at most', async ({
  browser,
}) => {
  const page = await browser.newPage();
  await signIn(page);
  const count = counted();
  const { press } = count;
  await press(page.getByRole('link', { name: 'Reading rooms', exact: true }));
  await press(page.getByRole('navigation', { name: 'This station' }).getByRole('link', { name: 'Check' }));
  await press(page.getByRole('link', { name: /^Zone by zone/ }));
  const all = page.getByRole('group', { name: /air temp|humidity|CO2/ });
  const close = page.getByRole('button', { name: /that agree/ });
  const zones = ['Ground floor', 'Second floor', 'Lamp room'];
  for (const zone of zones) {
    const begin = page.getByRole('button', { name: `Begin in ${zone}` });
    await expect(begin).toBeVisible();
    await page.getByLabel('Watch for, s').fill('10');
    await press(begin);
    await expect(all).toHaveCount(3);
    const take = page.getByRole('button', { name: new RegExp(`^Take reading \\d of 3 in ${zone}$`) });
    const back = page.getByRole('button', { name: 'Take back what moved' });
    // Where all are read, a verdict stands in the place of the count.
    const readSoFar = async () =>
      (await all.allInnerTexts()).reduce(
        (sum, text) => sum + Number(/(\d) of 3 read/.exec(text)?.[1] ?? 3),
        0,
      );
    // Three readings, and another for whatever moved just then: it is left out, or taken back and read again.
    for (let read = 0; read < 9; read = await readSoFar()) {
      await expect(page.getByText('All settled')).toBeVisible({ timeout: 60_000 });
      // In the first zone nothing is linked: each number is typed, the temperature once for itself and the humidity.
      if (zone === zones[0])
        for (const quantity of ['air temp', 'humidity', 'CO2']) {
          const group = page.getByRole('group', { name: `${zone} ${quantity}` });
          const shown = /([\d.]+) (?:°C|%RH|ppm)\s*(?:Or typed|$)/m.exec(await group.innerText());
          await group.getByLabel('Or typed').fill(shown?.[1] ?? '');
          count.presses++;
        }
      await press(take);
      await expect.poll(readSoFar).toBeGreaterThan(read);
      // One after the other they are sent, and asked for anew: until then it is not known how many are read.
      await expect(page.getByRole('button', { name: 'Reading …' })).toHaveCount(0);
      if ((await readSoFar()) === 9 && (await back.count()) > 0) {
        await press(back.first());
        await expect.poll(readSoFar).toBeLessThan(9);
      }
    }
    if (zone === 'Second floor') {
      const found = page.getByRole('group', { name: `${zone} CO2` });
      await expect(found).toContainText(/Adjust by −2\d\d ppm|Beyond the guard/);
      await expect(close).toHaveText('Close 2 that agree, next: Lamp room');
      await expectTidy(page, 'a zone where one is off');
    }
    await press(close);
  }
  await expect(page.getByRole('button', { name: 'Begin in Lamp room' })).toBeVisible();
  // Typed in all three zones it would be nine numbers more in each of the other two.
  expect(count.presses + 18).toBeLessThanOrEqual(60);
  await page.goto(page.url().replace(/Lamp.*$/, 'Second%20floor'));
  await expect(page.getByRole('group', { name: 'Second floor CO2' })).toContainText('Go on with it');
  await page.close();
});
