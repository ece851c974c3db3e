import { heldFrom, type Held } from './held';

const now = Date.parse('2026-11-27T10:00:00Z');
const one: Held = { id: 'a', value: 16.2, unit: '°C', what: 'shelf', at: '2026-11-27T09:58:00.000Z' };

test('what is held is read back; of another visit, or spoilt, it is left out', () => {
  expect(heldFrom(JSON.stringify([one]), now)).toEqual([one]);
  expect(heldFrom(JSON.stringify([{ ...one, at: '2026-11-26T09:58:00.000Z' }]), now)).toEqual([]);
  for (const bad of [{ ...one, value: 'x' }, { ...one, unit: 'furlong' }, { ...one, id: 1 }, {}])
    expect(heldFrom(JSON.stringify([bad, one]), now)).toEqual([one]);
  for (const text of ['', '{', 'null', '{"a":1}']) expect(heldFrom(text, now)).toEqual([]);
});
