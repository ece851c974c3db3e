import { bookTexts, present, refusal } from '@/test/bench';
import { onHungStation } from '@/test/hungStation';
import type { OnStation } from '@/test/onStation';
import { newId } from '../id';
import { collect } from '../record/collect';
import { loadStation } from '../station/stationGraph';
import { stageSettings, writeSettings } from './settings';
import { settingsTemplate } from './template';
import { stageWetThreshold } from './wetThreshold';

/** From where on a leaf counts as wet: the edge mast with its grid in the funnel of a rain gauge. */
let mast: OnStation;
// Two hours and a quarter: stored every ten minutes since.
onHungStation('MOSS-3', 135, (made) => (mast = made));
const leaf = async () =>
  (await loadStation(mast.test_.db, mast.stationId)).channels.find((c) => c.row.quantity === 'leafWetness')!;
const weather = (rain: number) => {
  const { places } = mast.stand.state;
  places['MOSS-3/Edge leaf'] = { leafWetness: { base: 430 } };
  places['MOSS-3/Edge rain'] = { rain: { base: rain } };
};
let minutes = 0;
/** So many minutes after the present, for whoever acts and for the stand. */
const goOn = (to: number) => {
  minutes = to;
  mast.stand.state.clock = { mode: 'frozen', at: present + to * 60_000 };
};
const readDry = async (change: { isDry?: boolean; despite?: string } = {}) => {
  const { row, newest } = await leaf();
  return stageWetThreshold(mast.at(minutes), mast.stationId, row.id, {
    revisionId: newId(),
    basedOn: newest,
    isDry: true,
    despite: '',
    ...change,
  });
};
const collected = async () => {
  await (
    await collect(mast.at(minutes), mast.stationId, newId())
  ).done;
};

test('nobody said that it is dry; the record of rain is old; it is no leaf: each by a sentence', async () => {
  weather(0);
  goOn(0);
  expect(await refusal(readDry({ isDry: false }))).toMatchObject({ code: 'not-dry', field: 'isDry' });
  const other = (await loadStation(mast.test_.db, mast.stationId)).channels.find(
    (c) => c.row.quantity === 'windSpeed',
  )!;
  const wind = stageWetThreshold(mast.at(), mast.stationId, other.row.id, {
    revisionId: newId(),
    basedOn: other.newest,
    isDry: true,
    despite: '',
  });
  expect(await refusal(wind)).toMatchObject({ code: 'no-wet-threshold' });
});

test('dry: what it reads plus the margin of its profile, staged, written and held; a template leaves it out', async () => {
  await collected();
  // No air is measured there, and that is said. The margin of this model is 45 counts.
  expect(await readDry()).toMatchObject({ sum: '430 + 45 = 475 counts', unknown: ['the dew point'] });
  const staged = (await leaf()).staged!;
  expect(staged.settings.wetAbove).toBe(475);
  await writeSettings(mast.at(), mast.stationId, (await leaf()).row.id, {
    actionId: newId(),
    revisionId: staged.id,
  });
  const { row, written } = await leaf();
  expect(written!.settings.wetAbove).toBe(475);
  const held = mast.logger.channels.find((c) => c.number === row.number)!;
  expect(held.history.at(-1)!.settings.wetAbove).toBe(475);
  expect((await bookTexts(mast.test_.db, mast.stationId)).join('\n')).toMatch(
    /wet from 475 counts on, read dry/,
  );
  const template = await settingsTemplate(mast.test_.db, mast.stationId);
  expect(template.channels.every((c) => !('wetAbove' in c.settings))).toBe(true);
});

test('after rain it takes a reason, which the book keeps; a value it cannot have is refused', async () => {
  weather(0.5);
  goOn(40);
  await collected();
  const doubted = await refusal(readDry());
  expect(doubted).toMatchObject({ code: 'doubtful-dry' });
  expect(doubted.detail).toMatch(/^It reads 430 counts, but it rained \d+\.\d mm in the last 6 h\.$/);
  await readDry({ despite: 'wiped, under the shelter' });
  expect((await bookTexts(mast.test_.db, mast.stationId)).at(-1)).toMatch(
    /wet from 475 counts on, read dry although it rained .*: wiped, under the shelter/,
  );
  goOn(240);
  expect((await refusal(readDry())).detail).toMatch(/the record of rain ends 3\.\d h ago/);
  // Older than anybody looks back: the gauge is still there, and nobody knows what fell.
  goOn(600);
  expect((await refusal(readDry())).detail).toMatch(/but the record of rain ends 9\.\d h ago/);
  const { row, staged, newest } = await leaf();
  const typed = stageSettings(mast.at(), mast.stationId, row.id, {
    revisionId: newId(),
    basedOn: newest,
    settings: { ...staged!.settings, wetAbove: 9000 },
  });
  expect(await refusal(typed)).toMatchObject({
    code: 'wet-threshold-outside',
    field: 'wetAbove',
    value: 9000,
  });
});

test('a channel that is off reads nothing: it is switched on first', async () => {
  const { row, staged, newest } = await leaf();
  const revisionId = newId();
  await stageSettings(mast.at(), mast.stationId, row.id, {
    revisionId,
    basedOn: newest,
    settings: { ...staged!.settings, enabled: false },
  });
  await writeSettings(mast.at(), mast.stationId, row.id, { actionId: newId(), revisionId });
  expect(await refusal(readDry())).toMatchObject({ code: 'channel-not-active' });
});
