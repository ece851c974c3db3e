import exifr from 'exifr';
import sharp from 'sharp';
import { query } from '@/db/database';
import { bookTexts, day, present, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { onePixel } from '@/test/picture';
import { newId } from '../id';
import { stationSheet } from '../station/stationSheet';
import { addPhotograph, photographBytes, photographs, takeBackPhotograph } from './photographs';

/** Photographs of the terminals: what is kept of a picture, and what is refused. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));
const S = () => bench.stationId;
const request = (more: Partial<Parameters<typeof addPhotograph>[2]> = {}) => ({
  photographId: newId(),
  occasion: 'before' as const,
  note: 'from the left',
  occurredAt: new Date(present).toISOString(),
  planRevision: null,
  position: null,
  picture: onePixel,
  ...more,
});
const shown = async () => (await photographs(test_.db, S())).photographs;
const send = (more: Parameters<typeof request>[0]) => addPhotograph(bench.at(), S(), request(more));

/** A picture as a camera writes it: lying on its side, with position and owner in its file. */
const fromCamera = async () => {
  const bytes = await sharp({ create: { width: 2400, height: 1200, channels: 3, background: '#884422' } })
    .jpeg()
    .withExif({
      IFD0: { Artist: 'Somebody' },
      IFD3: {
        GPSLatitudeRef: 'N',
        GPSLatitude: '57/1 24/1 0/1',
        GPSLongitudeRef: 'W',
        GPSLongitude: '17/1 20/1 0/1',
      },
    })
    .withMetadata({ orientation: 6 })
    .toBuffer();
  return bytes;
};

test('a picture of a camera is kept upright, smaller, and without position or owner', async () => {
  const bytes = await fromCamera();
  expect(await exifr.gps(bytes)).toMatchObject({ latitude: 57.4 });
  const { photographId } = await send({ picture: bytes.toString('base64'), occasion: 'after' });
  const [found] = await shown();
  // Turned by its orientation: 2400 × 1200 stands 1200 wide and 2400 high, and 1920 is the longest kept.
  expect(found).toMatchObject({
    id: photographId,
    occasion: 'after',
    width: 960,
    height: 1920,
    initials: 'IK',
  });
  expect(found).toMatchObject({ latitude: null, longitude: null });
  expect((await photographs(test_.db, S())).total).toBe(1);
  const kept = await photographBytes(test_.db, S(), photographId, 'large');
  expect(await exifr.gps(kept).catch(() => undefined)).toBeUndefined();
  expect((await sharp(kept).metadata()).exif).toBeUndefined();
  const small = await sharp(await photographBytes(test_.db, S(), photographId, 'small')).metadata();
  expect([small.width, small.height]).toEqual([160, 320]);
  expect((await bookTexts(test_.db, S())).at(-1)).toBe('Photograph, when done: from the left');
});

test('a position is kept where it is wanted', async () => {
  const { photographId } = await send({ position: { latitude: 57.4, longitude: -17.33 } });
  const found = (await shown()).find((g) => g.id === photographId);
  expect(found).toMatchObject({ latitude: 57.4, longitude: -17.33 });
});

test.each([
  ['text', Buffer.from('not a picture').toString('base64')],
  ['nothing', ''],
  ['a picture cut off', onePixel.slice(0, 60)],
  [
    'a drawing that is a program',
    Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"/>').toString('base64'),
  ],
])('%s is no picture', async (_, picture) => {
  const before = (await shown()).length;
  expect(await refusal(send({ picture }))).toMatchObject({ code: 'not-a-picture', field: 'picture' });
  expect(await shown()).toHaveLength(before);
});

test('one that says it has more pixels than any camera is not decoded', async () => {
  const huge = await sharp({ create: { width: 9000, height: 9000, channels: 3, background: '#000000' } })
    .png({ compressionLevel: 9 })
    .toBuffer();
  expect(huge.length).toBeLessThan(1_000_000);
  expect(await refusal(send({ picture: huge.toString('base64') }))).toMatchObject({ code: 'not-a-picture' });
});

test('too large, in the future, by a plan that is not there, under an id that is taken', async () => {
  const large = Buffer.alloc(1_600_000).toString('base64');
  expect(await refusal(send({ picture: large }))).toMatchObject({ code: 'picture-too-large', status: 413 });
  const later = new Date(present + day).toISOString();
  expect(await refusal(send({ occurredAt: later }))).toMatchObject({ code: 'future-time' });
  expect(await refusal(send({ planRevision: 7 }))).toMatchObject({ code: 'no-such-revision' });
  const { photographId } = await send({});
  const another = await fromCamera();
  expect(await refusal(send({ photographId, picture: another.toString('base64') }))).toMatchObject({
    code: 'already-there',
  });
  expect(await send({ photographId })).toEqual({ photographId });
});

test('one that was taken back is not shown, and stays on file', async () => {
  const { photographId } = await send({ note: 'a face' });
  await takeBackPhotograph(bench.at(), S(), photographId, { reason: 'shows a person' });
  expect((await shown()).map((g) => g.id)).not.toContain(photographId);
  expect(await refusal(photographBytes(test_.db, S(), photographId, 'small'))).toMatchObject({ status: 404 });
  const [kept] = await query<{ reason: string }>(
    test_.db,
    `select taken_back_reason as reason from photograph where id = :photographId`,
    { photographId },
  );
  expect(kept!.reason).toBe('shows a person');
  expect((await bookTexts(test_.db, S())).at(-1)).toBe(
    'Took back a photograph (before touching: a face): shows a person',
  );
});

test('a picture shows a terminal or a hop of a path; a marked copy stands beside its original', async () => {
  const terminal = await send({ terminal: '3 D+' });
  const hop = await send({ hop: { channelId: ids.temperature, kind: 'leads' } });
  const copy = await send({ copyOf: hop.photographId, note: 'marked' });
  const found = await shown();
  const of = (id: string) => found.find((g) => g.id === id)!;
  expect(of(terminal.photographId).shows).toBe('terminal 3 D+');
  expect(of(hop.photographId).shows).toMatch(/^leads of \S/);
  expect(of(copy.photographId)).toMatchObject({ copyOf: hop.photographId, shows: null });
  const { paths } = await stationSheet(test_.db, S(), new Date(present));
  const path = paths.find((p) => p.channelId === ids.temperature)!;
  expect(path.hops.map((h) => h.pictures)).toEqual([0, 1, 0, 0, 0, 0]);
  const { terminals, channels } = await photographs(test_.db, S());
  expect(terminals).toContain('3 D+');
  expect(channels.map((c) => c.id)).toContain(ids.temperature);
});

test.each([
  ['a terminal that is not there', () => ({ terminal: '99 X' }), 'no-such-terminal'],
  [
    'a channel of another station',
    () => ({ hop: { channelId: newId(), kind: 'leads' as const } }),
    'not-found',
  ],
  [
    'both',
    () => ({ terminal: '3 D+', hop: { channelId: ids.temperature, kind: 'leads' as const } }),
    'shows-two',
  ],
  ['an original that is not there', () => ({ copyOf: newId() }), 'not-found'],
])('%s is refused, and nothing is kept', async (_, more, code) => {
  const before = (await shown()).length;
  expect(await refusal(send(more()))).toMatchObject({ code });
  expect(await shown()).toHaveLength(before);
});
