import { v7 } from 'uuid';
import { fieldWriteAddress, fieldWrites } from './fieldWrites';
import { judgeBody } from './validate';

const note = (text: unknown) =>
  judgeBody(fieldWrites.note.schema, {
    lineId: v7(),
    stationId: v7(),
    text,
    occurredAt: '2026-03-02T10:00:00.000Z',
  });

test('a sound note passes, trimmed', () =>
  expect(note('  lid was open  ')).toMatchObject({ value: { text: 'lid was open' } }));
test.each([
  ['missing', undefined, 'missing'],
  ['empty', '', 'missing'],
  ['of 100 kB', 'x'.repeat(100_000), 'invalid'],
  ['a number', 12, 'invalid'],
  ['NaN', Number.NaN, 'invalid'],
])('a text that is %s: the field, the value and the remedy, in few words', (_, text, code) => {
  const judged = note(text);
  expect(judged).toMatchObject({ problem: { code, field: 'text', status: 422 } });
  const { detail, remedy } = (judged as { problem: { detail: string; remedy: string } }).problem;
  expect(detail.length).toBeLessThan(400);
  expect(remedy).toMatch(/\S/);
});

test('an address has its parameters filled in, escaped', () =>
  expect(fieldWriteAddress({ path: 'v1/a/[oneId]/b/[two]' }, { oneId: 'x y', two: '../z' })).toBe(
    '/api/v1/a/x%20y/b/..%2Fz',
  ));
