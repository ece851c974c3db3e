import type { Sdi12ScanView } from '@/contract/busViews';
import { bookTexts, present, refusal } from '@/test/bench';
import { onEdgeMast } from '@/test/edgeMast';
import type { OnStation } from '@/test/onStation';
import { settleAction } from '../device/settle';
import { newId } from '../id';
import { operationView } from '../process/operation';
import { loadStation } from '../station/stationGraph';
import { changeSdi12Address, measureSdi12, saySdi12, scanSdi12 } from './sdi12';

/** SDI-12 through a logger, against the stand: the edge mast with its wind head on one data line. */
let mast: OnStation;
onEdgeMast((made) => (mast = made));
const terminal = '9 SD';
const say = (command: string) =>
  saySdi12(mast.at(), mast.stationId, { actionId: newId(), terminal, command });
const change = (from: string, to: string, ctx = mast.at()) =>
  changeSdi12Address(ctx, mast.stationId, { actionId: newId(), terminal, from, to });

test('who is there, in the fields of the specification', async () => {
  expect(await say('?!')).toMatchObject({ state: 'done', says: '0' });
  const who = await say('0I!');
  expect(who.exchanges[0]!.parts.map((p) => p.name)).toEqual([
    'address',
    'specification',
    'vendor',
    'model',
    'firmware',
    'its own',
  ]);
  expect(await say('5!')).toMatchObject({ state: 'done', says: 'silence' });
});
test('it measures, is waited for, and all its values come, with and without checksum', async () => {
  const measure = (crc: boolean) =>
    measureSdi12(mast.at(), mast.stationId, { actionId: newId(), terminal, address: '0', command: 'M', crc });
  const plain = await measure(false);
  const checked = await measure(true);
  expect(plain.values).toHaveLength(2);
  expect(checked.values).toEqual(plain.values);
  expect(checked.exchanges.map((e) => e.command)).toEqual(['0MC!', '0D0!']);
  expect(checked.exchanges[1]!.parts.at(-1)).toMatchObject({ name: 'checksum', says: 'fits' });
}, 240_000);
test('what is no command, or would change one, is refused before anything is said', async () => {
  expect(await refusal(say('0X!'))).toMatchObject({
    field: 'command',
    detail: '"0X!" is no command of SDI-12.',
  });
  expect(await refusal(say('0A1!'))).toMatchObject({ detail: 'This command would change an address.' });
  expect(
    await refusal(saySdi12(mast.at(), mast.stationId, { actionId: newId(), terminal: 'A1', command: '0!' })),
  ).toMatchObject({
    field: 'terminal',
    detail: 'SDI-12 is not spoken on "A1".',
  });
});
test('another address: read back, its sensor moves with it, the book says it', async () => {
  expect(await change('0', '3')).toMatchObject({ state: 'done', says: 'it answers at 3' });
  const graph = await loadStation(mast.test_.db, mast.stationId);
  expect(graph.installations[0]!.row.busAddress).toBe('3');
  expect((await bookTexts(mast.test_.db, mast.stationId)).at(-1)).toMatch(
    /^Wrote address 0 to 3 on 9 SD: it answers at 3/,
  );
  expect(await refusal(change('3', '3'))).toMatchObject({ code: 'address-in-use' });
  expect(await change('7', '8')).toMatchObject({
    state: 'failed',
    says: 'nobody answers at 7: nothing was written',
  });
});
test('left by a killed process: unknown until it answers somewhere; no other write is begun meanwhile', async () => {
  const id = newId();
  await mast.test_.arrange(
    `insert into device_action
     select (jsonb_populate_record(d, jsonb_build_object('id', $2::text, 'state', 'intent', 'outcome', null,
              'settled_at', null, 'intended_at', $3::text,
              'intent', d.intent || '{"from": "7", "to": "8"}'))).*
       from device_action d where station_id = $1 and kind = 'sdi-write' and state = 'done' limit 1`,
    [mast.stationId, id, new Date(present - 3_600_000).toISOString()],
  );
  expect(await refusal(change('3', '0'))).toMatchObject({ code: 'write-running' });
  expect(await refusal(settleAction(mast.at(), mast.stationId, id))).toMatchObject({ code: 'still-unknown' });
  mast.logger.sensors[0]!.address = '8';
  expect(await settleAction(mast.at(), mast.stationId, id)).toMatchObject({ state: 'done' });
});
test('somebody answers there already: nothing is written', async () => {
  mast.logger.sensors.push({
    ...mast.logger.sensors[0]!,
    serial: 'S1-0099',
    address: '5',
    wired: { ...mast.logger.sensors[0]!.wired },
  });
  expect(await change('8', '5')).toMatchObject({
    state: 'failed',
    says: 'somebody answers at 5 already: nothing was written',
  });
  const operationId = newId();
  await (
    await scanSdi12(mast.at(), mast.stationId, { operationId, terminal })
  ).done;
  const found = (await operationView(mast.test_.db, operationId)).result as Sdi12ScanView;
  expect(found.hits.map((h) => [h.address, h.serial])).toEqual([
    ['5', null],
    ['8', 'S1-0042'],
  ]);
  mast.logger.sensors.pop();
});
