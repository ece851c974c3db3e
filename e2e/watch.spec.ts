import { expect, test, type Page } from '@playwright/test';
import { v7 as newId } from 'uuid';
import { expectTidy } from './layout';
import { post, signIn, stack, stationId, visit } from './steps';

/** Watch: a limit tried on the past, armed, proved by provoking, and an alarm answered. */

const hour = 3_600_000;
const type = (
  page: Page,
  station: string,
  channel: object,
  readings: readonly (readonly [number, number])[],
) =>
  post(page, `/api/v1/stations/${station}/readings`, {
    readingsId: newId(),
    channel,
    unit: '%RH',
    readings: readings.map(([at, value]) => ({ at: new Date(at).toISOString(), value })),
    confirmed: true,
  });
const received = async (subject: string) =>
  ((await (await fetch(`${stack().lab}/lab/received`)).json()) as { subject: string; to: string }[]).filter(
    (r) => r.subject === subject,
  );

test('a limit is tried on the recorded past, armed, and proved; then it rings in earnest', async ({
  page,
}) => {
  await signIn(page);
  const station = await stationId(page, 'KELP-2');
  // Two days read by hand, with an hour of 70 on each and one of 66.
  const begin = Date.now() - 48 * hour;
  const values = Array.from({ length: 46 }, (_, i) => (i % 24 === 10 ? 70 : i === 30 ? 66 : 50 + (i % 5)));
  const fresh = { kind: 'new', quantity: 'humidity', zoneName: 'Hand tester' };
  await type(
    page,
    station,
    fresh,
    values.map((v, i) => [begin + i * hour, v] as const),
  );
  const channelId = await page.evaluate(async (id) => {
    const record = (await (await fetch(`/api/v1/stations/${id}/record`)).json()) as {
      channels: { channelId: string; name: string }[];
    };
    return record.channels.find((c) => c.name === 'Hand tester humidity')!.channelId;
  }, station);
  const channel = { kind: 'existing', id: channelId };
  const now = (value: number) => type(page, station, channel, [[Date.now(), value]]);

  // The bench: limits that make sense for humidity, played on what was.
  await visit(page, `/stations/${station}/trace/${channelId}`);
  await page.getByRole('link', { name: 'Watch', exact: true }).last().click();
  const bench = page.getByRole('region', { name: 'What it would have done' });
  const rings = bench.getByRole('button', { name: /^20/ });
  await expect(rings).toHaveCount(3);
  const high = page.getByRole('slider', { name: 'Too high', exact: true });
  await expect(high).toHaveAttribute('aria-valuenow', '65');
  await high.press('ArrowUp');
  await high.press('ArrowUp');
  await high.press('ArrowUp');
  await expect(high).toHaveAttribute('aria-valuenow', '66.5');
  await expect(rings).toHaveCount(2);
  await expect(bench).toContainText('Nothing beyond a limit went without a ring');
  await page.keyboard.press('Control+z');
  await page.keyboard.press('Control+z');
  await expect(rings).toHaveCount(3);
  // Dragged far above what was: nothing rings any more, at once.
  const line = (await high.boundingBox())!;
  const [x, y] = [line.x + line.width / 3, line.y + line.height / 2];
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x, y - 30, { steps: 6 });
  await page.mouse.move(x, y - 60, { steps: 6 });
  await page.mouse.up();
  await expect(bench.getByRole('status')).toHaveText('0.0 rings a month');
  await page.keyboard.press('Control+z');
  await page.getByLabel('Too high, %RH', { exact: true }).fill('64');
  await page.getByLabel('Back by, %RH').fill('80');
  await expect(page.getByRole('alert').filter({ hasText: 'Choose a smaller hysteresis' })).toBeVisible();
  await page.getByLabel('Back by, %RH').fill('3');
  await page.getByLabel('Why, as agreed with whom').fill('agreed with the shed');
  await page.getByRole('button', { name: 'Arm as rule 1' }).click();
  await expect(page.getByText('Rule 1 is in force.')).toBeVisible();
  await expect(page.getByText('Never proved: nobody has made it ring.')).toBeVisible();

  // Proved by provoking: tightened, rung, heard at the end of the chain, put back, cleared.
  await page.getByRole('button', { name: 'Prove it' }).click();
  const form = page.getByRole('form', { name: 'Begin a proof' });
  await form.getByLabel('Too high, %RH', { exact: true }).fill('45');
  await form.getByLabel('Too low, %RH', { exact: true }).fill('');
  await form.getByLabel('Who was told beforehand').fill('duty desk');
  await form.getByRole('button', { name: 'Begin the proof' }).click();
  const proof = page.getByRole('group', { name: 'Proof under way' });
  await expect(proof).toContainText('it has not rung yet');
  await now(50);
  await expect(proof).toContainText(/It rang at .*too high, 50.0 %RH \(limit 45.0\)/);
  await expect
    .poll(() => received('KELP-2: alarm, Hand tester humidity'))
    .toMatchObject([{ to: 'duty@skerrow-isles.example' }]);
  await proof.getByRole('button', { name: 'It arrived' }).click();
  await expect(proof).toContainText('It arrived at the end of the chain');
  await proof.getByRole('button', { name: 'Put the limits back' }).click();
  await expect(proof).toContainText('Limits put back');
  await now(50);
  await expect(proof).toContainText('It cleared at');
  await expectTidy(page, 'A proof under way');
  await proof.getByRole('button', { name: 'Proved' }).click();
  await expect(page.getByText(/^Proved: it rang, its message arrived, and it cleared/)).toBeVisible();
  await expect(page.getByText(/put back after a proof/)).toBeVisible();

  // In earnest: on the board, among the alarms, answered, and over.
  await now(70);
  await visit(page, '/watch');
  const row = page.getByRole('listitem').filter({ hasText: 'Hand tester humidity' });
  await expect(row).toContainText('too high');
  await expect(row.getByRole('img')).toHaveAccessibleName('Hand tester humidity: 70.0 %RH, too high');
  await page.getByRole('link', { name: 'Alarms' }).click();
  const ringing = page
    .getByRole('region', { name: 'Ringing' })
    .getByRole('listitem')
    .filter({ hasText: 'Hand tester' });
  await expect(ringing).toContainText('too high, 70.0 %RH (limit 64.0)');
  await ringing.getByRole('button', { name: 'Acknowledge' }).click();
  await page.getByLabel('What it was, or what is done').fill('gate stood open');
  await page.getByRole('button', { name: 'I know of it' }).click();
  await expect(ringing).toContainText('Acknowledged by IK: gate stood open');
  await ringing.getByRole('button', { name: 'Shelve' }).click();
  await page.getByRole('form', { name: 'Shelve' }).getByLabel('Why').fill('painting');
  await page.getByRole('form', { name: 'Shelve' }).getByRole('button', { name: 'Shelve' }).click();
  await expect(ringing).toContainText('shelved until');
  await now(50);
  const past = page
    .getByRole('region', { name: 'Of the last 30 days' })
    .getByRole('listitem')
    .filter({ hasText: 'Hand tester' });
  await expect(past.first()).toContainText('back within');
  await past.first().getByRole('button', { name: 'More' }).click();
  await expect(past.first()).toContainText('acknowledged · IK · gate stood open');

  // The record says which values were those of the proof.
  await visit(page, `/stations/${station}/trace/${channelId}`);
  await expect(page.getByText('alarm proved: limits were tightened').first()).toBeVisible();
});
