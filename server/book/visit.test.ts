import fc from 'fast-check';
import { rows } from '@/db/database';
import { present, day, refusal, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onBench } from '@/test/onBench';
import { newId } from '../id';
import { addNote } from './fieldBook';

let test_: TestDatabase;
let bench: TestBench;
onBench((made) => ({ test_, bench } = made));
const hour = 3_600_000;
const at = (ms: number) => new Date(ms).toISOString();

const note = (
  text: string,
  ms: number,
  more: { lineId?: string; device?: { at: string; ahead: number } } = {},
) =>
  addNote(
    { ...bench.at(present + 300 * day), person: bench.people.technician, device: more.device ?? null },
    { lineId: more.lineId ?? newId(), stationId: bench.stationId, text, occurredAt: at(ms) },
  );
const visits = async () => {
  const all = await rows(test_.db.visit, { where: { stationId: bench.stationId } });
  const lines = await rows(test_.db.fieldBook, { where: { stationId: bench.stationId, kind: 'note' } });
  return { all, of: (text: string) => lines.find((l) => l.text === text)!.visitId };
};

test('what was done five days ago without a signal joins the visit of that day, not the one that is open', async () => {
  await note('there', present - 5 * day);
  await note('now', present);
  await note('kept in the bog', present - 5 * day + hour);
  const { of, all } = await visits();
  expect(of('kept in the bog')).toBe(of('there'));
  expect(of('kept in the bog')).not.toBe(of('now'));
  expect(all.find((v) => v.id === of('there'))!.closedAt).toEqual(new Date(present - 5 * day + hour));
});
test('a day of which nobody had heard becomes a visit of its own, closed', async () => {
  await note('the day between', present - 2 * day);
  await note('later that day', present - 2 * day + 2 * hour);
  await note('earlier that day', present - 2 * day - hour);
  const { of, all } = await visits();
  expect(new Set(['the day between', 'later that day', 'earlier that day'].map(of)).size).toBe(1);
  expect(all.find((v) => v.id === of('the day between'))).toMatchObject({
    openedAt: new Date(present - 2 * day - hour),
    closedAt: new Date(present - 2 * day + 2 * hour),
  });
  expect(of('now')).not.toBe(of('the day between'));
});
test('in whatever order notes arrive: one open visit at most, none longer than a working day, every line within its own', async () => {
  const base = present + 40 * day;
  await fc.assert(
    fc.asyncProperty(
      fc.array(fc.integer({ min: 0, max: 100 }), { minLength: 1, maxLength: 8 }),
      async (hours) => {
        for (const h of hours) await note(`h${h}`, base + h * hour);
        const { all } = await visits();
        expect(all.filter((v) => !v.closedAt).length).toBeLessThanOrEqual(1);
        const lines = await rows(test_.db.fieldBook, { where: { stationId: bench.stationId } });
        for (const v of all) {
          const mine = lines.filter((l) => l.visitId === v.id).map((l) => l.occurredAt.getTime());
          if (mine.length === 0) continue;
          expect(Math.max(...mine) - Math.min(...mine)).toBeLessThan(8 * hour);
          expect(Math.min(...mine)).toBe(v.openedAt.getTime());
          if (v.closedAt) expect(Math.max(...mine)).toBeLessThanOrEqual(v.closedAt.getTime());
        }
      },
    ),
    { numRuns: 15, seed: 7 },
  );
});
test('both clocks are kept', async () => {
  const device = { at: at(present + day), ahead: 86_400 };
  await note('by a tablet a day ahead', present, { device });
  const [line] = await rows(test_.db.fieldBook, { where: { text: 'by a tablet a day ahead' } });
  expect(line).toMatchObject({
    deviceAt: new Date(present + day),
    deviceAhead: 86_400,
    occurredAt: new Date(present),
  });
});
test('another note under the id of one that is there: refused, with what is there', async () => {
  const lineId = newId();
  await note('the first', present, { lineId });
  await note('the first', present, { lineId });
  expect(await refusal(note('the second', present, { lineId }))).toMatchObject({
    code: 'already-there',
    extra: { there: { by: 'IK', says: 'the first', from: at(present), until: null } },
  });
});
