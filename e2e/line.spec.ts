import { expect, test } from '@playwright/test';
import { expectTidy } from './layout';
import { awake, choose, lab, signIn, signOut, stack, stationId, visit } from './steps';

/** A sensor is silent: the line is held, the search goes by what its page says, and it is put right over the line. */
test('set to another protocol, with another ID: found in its service window, put right, given back', async ({
  page,
}) => {
  const serial = 'TH4-0311';
  await signIn(page, 'admin');
  await visit(page, '/practice');
  await choose(page, `Make ${serial}`, 'another protocol');
  await choose(page, `Make ${serial}`, 'another ID');
  await expect(page.getByText('another protocol', { exact: false }).first()).toBeVisible();
  await expectTidy(page, 'practice');
  await signOut(page);

  await signIn(page);
  const station = await stationId(page, 'KELP-3');
  await visit(page, `/stations/${station}/connect`);
  const sensor = page.getByRole('region', { name: `Sensor ${serial}` });
  await sensor.getByRole('button', { name: 'Talk' }).click();
  await expect(sensor.getByText(/^No answer: nothing came/)).toBeVisible();
  await sensor.getByRole('button', { name: 'Look for the fault' }).click();
  await expect(page.getByRole('heading', { name: `Why does ${serial} not answer?` })).toBeVisible();
  await awake(page);

  const step = (name: string) => page.getByRole('heading', { name: new RegExp(`^\\d+\\. ${name}`) });
  const press = (name: string | RegExp) => page.getByRole('button', { name }).click();
  await expect(step('Reach the gateway')).toBeVisible();
  await press('Do it');
  await expect(step('Ask it as it is on file')).toBeVisible();
  await press('Do it');
  await expect(step('Ask the others on the line')).toBeVisible();
  await press('Do it');
  // From here on the line is needed for itself: who is master is asked first.
  await expect(step('Try the usual speeds')).toBeVisible();
  await expect(page.getByRole('button', { name: 'Hold the line' })).toBeDisabled();
  await page.getByLabel('Nothing acts on them').check();
  await press('Hold the line');
  await expect(page.getByText(/RS-485 port 1 is held/)).toBeVisible();
  await press('Try them');
  await expect(step('Look at its light')).toBeVisible();
  const seen = (await (await fetch(`${stack().lab}/lab/at-sensor?serial=${serial}`)).json()) as {
    idle: number;
    light: string;
  };
  await press(`It is ${seen.light}`);
  await expect(step('Measure the pair at rest')).toBeVisible();
  await page.getByLabel('V DC, with its sign').fill(String(seen.idle));
  await press('That is what it shows');
  await expect(step('Look for it at every ID')).toBeVisible();
  await page.getByLabel('To ID').fill('20');
  await press('Scan');
  await expect(step('Ask at the ID that all of its model answer')).toBeVisible();
  const others = ['TH4-0312', 'TH4-0313', 'K2-0071'];
  await lab({ bus: { station: 'KELP-3', lifted: others } });
  await press('It is alone on the line: ask');
  await expect(step('Catch its service window')).toBeVisible();
  await press('It is alone on the line: begin to listen');
  await expect(page.getByText(/Take power from this device only/)).toBeVisible();
  await lab({ sensor: { serial, powerCycle: true } });

  await expect(page.getByText('Found: it is set to another protocol')).toBeVisible();
  await expect(page.getByRole('row', { name: 'id 17 1' })).toBeVisible();
  await expect(page.getByRole('row', { name: 'protocol text modbus' })).toBeVisible();
  await expectTidy(page, 'what was found');
  await press('Put it right over the line');
  await expect(page.getByText('It answers.', { exact: true })).toBeVisible();
  await expect(page.getByText('The data leads of the others on the line: back on.')).toBeVisible();
  await lab({ bus: { station: 'KELP-3', lifted: [] } });
  // What counts is what its logger hears, and it does not poll a line that is held.
  await expect(page.getByRole('button', { name: 'Verify through the logger' })).toBeDisabled();
  const search = new URL(page.url()).pathname;

  await page.getByRole('link', { name: 'The line' }).click();
  await page.getByRole('button', { name: 'Ask', exact: true }).click();
  await expect(page.getByText('illegal data address (code 2)')).toBeVisible();
  await page.getByRole('region', { name: 'Scan' }).getByLabel('To ID').fill('6');
  // As long as a busy machine may take to answer.
  await page.getByRole('region', { name: 'Scan' }).getByLabel('Listen for, ms').fill('1500');
  await press(/^Scan, about/);
  await expect(page.getByText('Done: IDs 1 to 6: ID 1 answers, ID 2 answers')).toBeVisible();
  const change = page.getByRole('region', { name: 'Change an ID' });
  await change.getByLabel('ID now').fill('3');
  await change.getByLabel('New ID').fill('4');
  await change.getByRole('button', { name: 'Change it' }).click();
  await expect(change.getByRole('alert').getByText('ID 4 is that of K2-0071 on this line.')).toBeVisible();
  await expectTidy(page, 'talking on the line');
  await press('Give the line back');
  await expect(page.getByText('The logger polls RS-485 port 1.')).toBeVisible();
  await visit(page, search);
  await press('Verify through the logger');
  await expect(page.getByText('It answers, and its logger shows it.')).toBeVisible();
  await expectTidy(page, 'verified through the logger');
  await press('Close the search');

  await visit(page, `/field-book?station=${station}`);
  await expect(page.getByText(`${serial} answers again`)).toBeVisible();
  await expect(
    page.getByText(/^Wrote TH4-0311: id 17 → 1, protocol text → modbus on the line: read back equal/),
  ).toBeVisible();
});
