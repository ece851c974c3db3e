import { expect, test, type Locator, type Page } from '@playwright/test';
import type { WaterView } from '@/contract/water';
import { expectTidy } from './layout';
import { v7 as newId } from 'uuid';
import { choose, post, signIn, stationId, visit } from './steps';

/** Water: a visit with every gauge, each sum worked out here again. */

const waterOf = (page: Page, id: string) =>
  page.evaluate(
    async (stationOf) => (await (await fetch(`/api/v1/stations/${stationOf}/water`)).json()) as WaterView,
    id,
  );
const sum = (page: Page): Locator => page.getByRole('status', { name: 'Sum' });
const keep = (page: Page): Promise<void> => page.getByRole('button', { name: 'Keep this reading' }).click();
const from = (page: Page, code: RegExp): Promise<void> =>
  page.getByRole('group', { name: 'Read from' }).getByRole('button', { name: code }).click();
const line = (page: Page, text: string | RegExp): Locator =>
  page.getByRole('region', { name: 'Last visit' }).getByRole('article').filter({ hasText: text });
const three = (value: number): string => value.toFixed(3);

test('a visit to the water: tape, wire weight with its bar off and set, staff, crest and radar', async ({
  page,
}) => {
  await signIn(page);
  const id = await stationId(page, 'SLUICE-1');
  await visit(page, `/stations/${id}/water`);
  const water = await waterOf(page, id);
  const level = water.channels[0]!.newest!.value;
  const lies = (code: string): number => {
    const point = water.points.find((p) => p.code === code)!;
    return water.elevations.findLast((e) => e.pointId === point.id)!.elevation;
  };

  // Reference point: the elevation on file − the tape.
  const tape = Number(three(lies('RP1') - level));
  await page.getByLabel('Tape-down, m').fill(three(tape * 3.2808));
  await expect(page.getByRole('alert').filter({ hasText: 'logged about then' })).toContainText(
    'Were feet typed for metres?',
  );
  await expect(page.getByRole('button', { name: 'Keep this reading' })).toBeDisabled();
  await page.getByLabel('Tape-down, m').fill('-0.2');
  await expect(sum(page)).toContainText('lies above the point');
  await page.getByLabel('Tape-down, m').fill(three(tape));
  const rail = Number(three(lies('RP1')));
  await expect(sum(page)).toContainText(`${three(rail)} − ${three(tape)} = ${three(rail - tape)} m`);
  await keep(page);
  await expect(line(page, 'RP1')).toContainText(`= ${three(rail - tape)} m`);

  // Wire weight: the water before the bar has no correction, until the bar is read; then it is set.
  await from(page, /WW1/);
  await page.getByRole('button', { name: 'Water', exact: true }).click();
  const before = Number(three(level - 0.012));
  await page.getByLabel('Gauge reads at the water, m').fill(three(before));
  await expect(sum(page)).toContainText(`${three(before)} + ? (correction) m`);
  await keep(page);
  await expect(line(page, `water ${three(before)} m`)).toContainText('No check of the bar at this visit');
  await page.getByRole('button', { name: 'Check bar' }).click();
  const bar = Number(three(lies('WW1')));
  await page.getByLabel('Gauge reads on the bar, m').fill(three(bar - 0.012));
  await page.getByLabel('The setting was changed').check();
  await page.getByLabel('Set to, m').fill(three(bar));
  await expect(sum(page)).toContainText(
    `${three(bar)} − ${three(bar - 0.012)} = 0.012 m, set to ${three(bar)}: 0.000 m`,
  );
  await keep(page);
  await expect(line(page, `water ${three(before)} m`)).toContainText(
    `${three(before)} + 0.012 = ${three(before + 0.012)} m`,
  );
  // After the bar the water: the form is there already.
  await page.waitForTimeout(1100);
  await page.getByLabel('Gauge reads at the water, m').fill(three(level));
  await expect(sum(page)).toContainText(`${three(level)} + 0.000 = ${three(level)} m`);
  await keep(page);
  await expect(line(page, `water ${three(level)} m`)).toBeVisible();

  await from(page, /ST1/);
  const [zero, staff] = [Number(three(lies('ST1'))), Number(three(level))];
  await page.getByLabel('Staff reads, m').fill(`${(staff * 100).toFixed(1)} cm`);
  await expect(sum(page)).toContainText(`${three(zero)} + ${three(staff)} = ${three(zero + staff)} m`);
  await keep(page);
  await expect(line(page, 'ST1')).toBeVisible();

  // Crest: a mark, its time chosen from the record's crests.
  await from(page, /CS1/);
  await page.getByLabel('When the water stood there').click();
  const crest = page.getByRole('option', { name: /m logged$/ }).first();
  const logged = Number(/([\d.]+) m logged/.exec(await crest.innerText())![1]);
  await crest.click();
  const [index, mark] = [Number(three(lies('CS1'))), Number(three(logged - lies('CS1')))];
  await page.getByLabel('Mark above the index, m').fill(three(mark));
  await expect(sum(page)).toContainText(`${three(index)} + ${three(mark)} = ${three(index + mark)} m`);
  await expect(sum(page)).toContainText('Not recharged at the visit before');
  await keep(page);
  await expect(line(page, 'CS1')).toContainText('They agree: leave it alone');

  await from(page, /RA1/);
  const [face, distance] = [Number(three(lies('RA1'))), Number(three(lies('RA1') - level))];
  await page.getByLabel('Distance, m').fill(three(distance));
  await page.getByLabel('Inspected').check();
  await page.getByLabel('Nests in the beam').check();
  await expect(sum(page)).toContainText(`${three(face)} − ${three(distance)} = ${three(face - distance)} m`);
  await expect(sum(page)).toContainText('Something nests in the beam');
  await keep(page);
  await expect(line(page, 'RA1')).toBeVisible();

  // Inside and outside beside one another.
  await expect(page.getByRole('region', { name: 'Gauges beside one another' })).toContainText(/RA1 − ST1/);
  await expectTidy(page, 'levels of a visit');

  // A slip is taken back with its reason.
  await line(page, 'RA1').getByRole('button', { name: 'Take back' }).click();
  await page.getByLabel('Why it is taken back').fill('nest removed, read again');
  await page.getByRole('form', { name: 'Take back' }).getByRole('button', { name: 'Take back' }).click();
  await expect(line(page, 'RA1')).toHaveCount(0);

  // A staff that stood lower than what was logged then: the record is corrected since they agreed last, and that
  // taken back. What was logged then is asked first.
  const { id: channelId, newest } = water.channels[0]!;
  const beside = async (readingId: string) =>
    (await waterOf(page, id)).readings.find((r) => r.id === readingId)!.against!;
  const staffThen = async (stood: number): Promise<string> => {
    const readingId = newId();
    await post(page, `/api/v1/stations/${id}/water/readings`, {
      readingId,
      pointId: water.points.find((p) => p.code === 'ST1')!.id,
      read: { kind: 'staff', reads: Number(three(stood - lies('ST1'))) },
      accuracy: 0.003,
      surveyId: water.elevations.findLast((e) => e.elevation === lies('ST1'))!.surveyId,
      lookedAgain: true,
      occurredAt: new Date(Date.parse(newest!.at) - 600_000).toISOString(),
    });
    return readingId;
  };
  const asked = await staffThen(newest!.value);
  const { logged: then } = await beside(asked);
  await post(page, `/api/v1/stations/${id}/water/readings/${asked}/take-back`, { reason: 'only asked' });
  const low = await staffThen(then - 0.04);
  const off = (await beside(low)).comparison!.difference;
  await page.reload();
  await page
    .getByRole('button', { name: `−${three(off)} m at once` })
    .first()
    .click();
  await expect.poll(async () => (await beside(low)).comparison!.verdict.kind).toBe('agree');
  const { value, logged: asLogged } = await beside(low);
  expect(value).toBeCloseTo(asLogged - off, 6);
  await visit(page, `/stations/${id}/trace/${channelId}`);
  await page.getByRole('button', { name: /^Take back: ST1 of/ }).click();
  await page.getByLabel('Why it is taken back').fill('the staff was read upside down');
  await page.getByRole('button', { name: 'Take it back' }).click();
  await expect.poll(async () => (await beside(low)).comparison!.verdict.kind).toBe('adjust');
});

test('a levelling sheet on a tablet: reduced as it is typed, its outcome on file, and what it means proposed', async ({
  browser,
}) => {
  const page = await browser.newPage({ viewport: { width: 800, height: 1100 } });
  await signIn(page);
  const id = await stationId(page, 'SLUICE-1');
  await visit(page, `/stations/${id}/water/survey`);
  await page.getByLabel('Levelled by').fill('AR, IK');
  const row = (n: number) => page.getByRole('group', { name: `Row ${n}`, exact: true });
  await choose(page, 'Point 1', /BM1/);
  await row(1).getByLabel('Back, m').fill('1.320');
  await choose(page, 'Point 2', /RP1/);
  await row(2).getByLabel('Between, m').fill('1.530');
  await page.getByRole('button', { name: 'Another row' }).click();
  await choose(page, 'Point 3', /BM1/);
  await row(3).getByLabel('Fore, m').fill('1.420');
  const reduced = page.getByRole('status', { name: 'Reduced' });
  await expect(reduced).toContainText('Misclosure −0.1000 m, allowed ±0.0009 m over 1 set-ups.');
  await expect(page.getByRole('button', { name: 'Keep this survey' })).toBeDisabled();
  await row(3).getByLabel('Fore, m').fill('1.3205');
  await expect(reduced).toContainText('Misclosure −0.0005 m');
  // 5.000 + 1.320 − 1.530, and what its one set-up was off.
  await expect(reduced).toContainText('RP1 4.7905');
  await expectTidy(page, 'levelling sheet on a tablet');
  await page.getByRole('button', { name: 'Keep this survey' }).click();
  await expect(page.getByRole('heading', { name: 'Measuring points' })).toBeVisible();
  await expect(page.getByRole('row', { name: /RP1/ }).first()).toContainText('4.7905 ± 0.0009');
  await visit(page, `/stations/${id}/water`);
  const proposed = page.getByRole('region', { name: 'Proposed for levels read before' });
  await expect(proposed).toContainText(/found RP1 −0\.01\d\d? m from where the one before did/);
  await page.close();
});

test('the k curve is led by key and by pointer: what was recorded follows, one key undoes it, kept it counts', async ({
  page,
}) => {
  await signIn(page);
  const id = await stationId(page, 'SLUICE-1');
  await visit(page, `/stations/${id}/water/discharge`);
  // Each gauging alone says leave it; together they do not.
  await expect(page.getByRole('status', { name: 'All gaugings' })).toContainText(
    /4 gaugings together: −[34]\.\d % ± [23]\.\d %: lead the curve/,
  );
  await expect(page.getByText('leave it', { exact: true })).toHaveCount(4);
  // A tide: by its level alone nothing could be said of it.
  await expect(
    page.getByText(/No rating by level here: the water ran back for \d+ % of the last days/),
  ).toBeVisible();
  const support = page.getByRole('slider', { name: 'k at 2.90 m' });
  const k = async () => Number(await support.getAttribute('aria-valuenow'));
  const began = await k();
  await support.focus();
  await page.keyboard.press('ArrowLeft');
  await page.keyboard.press('Shift+ArrowLeft');
  expect(await k()).toBeCloseTo(began - 0.006, 6);
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  expect(await k()).toBeCloseTo(began, 6);
  // By pointer: to the left, in one step that one key undoes.
  const box = (await support.boundingBox())!;
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let i = 1; i <= 8; i++) await page.mouse.move(x - 4 * i, y);
  await page.mouse.up();
  const dragged = await k();
  expect(dragged).toBeLessThan(began - 0.01);
  await page.keyboard.press('Control+z');
  expect(await k()).toBeCloseTo(began, 6);
  await page.keyboard.press('Control+Shift+z');
  expect(await k()).toBeCloseTo(dragged, 6);
  await page.keyboard.press('Control+z');

  // By the gaugings, and kept: the record of the discharge follows.
  const newest = async (): Promise<number> =>
    page.evaluate(async (stationOf) => {
      const station = `/api/v1/stations/${stationOf}`;
      const { dischargeId } = (await (await fetch(`${station}/discharge`)).json()) as { dischargeId: string };
      const trace = await fetch(`${station}/channels/${dischargeId}/trace`);
      const { series } = (await trace.json()) as { series: { points: { mean: number | null }[] }[] };
      return series[0]!.points.findLast((p) => p.mean !== null)!.mean!;
    }, id);
  const before = await newest();
  await page.getByRole('button', { name: 'Fit to the gaugings' }).click();
  expect(await k()).toBeLessThan(began);
  await expect(page.getByRole('status', { name: 'All gaugings' })).toContainText('leave the curve alone');
  const form = page.getByRole('form', { name: 'Keep this curve' });
  await form.getByLabel('Why').fill('led through four gaugings');
  // From the first gauging on.
  const year = form.getByRole('spinbutton', { name: 'Year' });
  await year.click();
  await page.keyboard.type('2020');
  await form.getByRole('button', { name: 'Keep as curve 2' }).click();
  await expect(page.getByRole('heading', { name: 'Curve 2' })).toBeVisible();
  await expect(page.getByText('led by 4 gaugings')).toBeVisible();
  await expect.poll(newest).not.toBeCloseTo(before, 6);
  await expectTidy(page, 'a curve that was led');
});

test('a drain without a tide: its rating by level, fitted anew with the shift that the last gauging wants', async ({
  page,
}) => {
  await signIn(page);
  await visit(page, `/stations/${await stationId(page, 'MOSS-3')}/water/discharge`);
  const fit = page.getByRole('status', { name: 'Fit' });
  await expect(fit).toContainText(/Q = [\d.]+ · \(h − 0\.3\d+\)\^[12]\.\d+/);
  await expect(fit).toContainText(/The gaugings scatter by [1-4]\.\d % about it/);
  await expect(page.getByRole('table', { name: 'Gaugings beside the rating' }).getByRole('row')).toHaveCount(
    8,
  );
  await page.getByLabel('Level of no flow, m').fill('2');
  await expect(fit).toContainText('no flow would begin at 2 m');
  await page.getByLabel('Level of no flow, m').fill('0.35');
  await expect(fit).toContainText('(h − 0.350)');
  const wanted = /The last gauging wants ([+−][\d.]+)/.exec(
    await page.getByText(/The last gauging wants/).innerText(),
  );
  await page.getByLabel('Shift, m').fill(wanted![1]!.replace('−', '-'));
  const keepIt = page.getByRole('form', { name: 'Keep this rating' });
  await keepIt.getByLabel('Why').fill('weed in the drain');
  await keepIt.getByRole('button', { name: 'Keep this rating' }).click();
  await expect(page.getByText(/Rating 2 holds from .*weed in the drain/)).toBeVisible();
  await page.getByRole('link', { name: 'trace of the discharge' }).click();
  await expect(page.getByText(/discharge by level of .*rating 2/)).toBeVisible();
});
