import type { Unit } from '@/core/quantity/unit';
import { collect } from '../record/collect';
import { day, present, type TestBench } from '@/test/bench';
import { type TestDatabase } from '@/test/database';
import { importText } from '@/test/importText';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { plainPlan } from '@/test/plainPlan';
import { row } from '@/db/database';
import { newId } from '../id';
import { round } from '../trust/round';
import { approveSpan } from './mark';
import { verifyList, verifyQuery } from './list';
import { setTwin } from './twin';

let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const list = (query = '', at = present) =>
  verifyList(test_.db, verifyQuery(new URLSearchParams(query)), new Date(at));
const rowOf = async (channelId: string, at = present) =>
  (await list('', at)).rows.find((r) => r.channelId === channelId)!;
const channelIn = async (zoneName: string) => (await row(test_.db.channel, { where: { zoneName } }))!.id;

/** A file of one quantity that goes to a channel made for it, every ten minutes until the present. */
const importValues = (
  zoneName: string,
  quantity: 'windDirection' | 'rain',
  values: readonly number[],
  unit: Unit,
) =>
  importText(
    bench,
    [
      'time,v',
      ...values.map(
        (v, i) => `${new Date(present - (values.length - i) * 600_000).toISOString().slice(0, 19)},${v}`,
      ),
    ].join('\n'),
    plainPlan([{ column: 1, unit, channel: { kind: 'new', quantity, zoneName } }]),
  );

test('twins of a direction are compared on the circle: 358° and 2° are 4° apart', async () => {
  // Each blows about north, first on one side of it and then on the other.
  const about = (middle: number) =>
    Array.from({ length: 288 }, (_, i) => (360 + middle + ((i % 7) - 3)) % 360);
  await importValues('Mast', 'windDirection', about(-2), '°');
  await importValues('Roof', 'windDirection', about(2), '°');
  const [mast, roof] = [await channelIn('Mast'), await channelIn('Roof')];
  await setTwin(bench.at(), bench.stationId, mast, {
    twinId: newId(),
    other: { stationId: bench.stationId, channelId: roof },
    tolerance: 5,
  });
  const r = await rowOf(mast);
  expect(r.twinDifference).toBeCloseTo(-4, 6);
  expect(r.word).not.toBe('unlike twin');
});

test('a record nobody collects grows old while nothing is stored; one fed by files does not', async () => {
  await (
    await collect(bench.at(), bench.stationId, newId())
  ).done;
  await importValues('Roof gauge', 'rain', Array<number>(144).fill(0), 'mm');
  const gauge = await channelIn('Roof gauge');
  const before = await rowOf(ids.temperature);
  expect(before.word).not.toBe('not collected');
  // Heavier reasons keep their word; the weight is never below that of age.
  const later = await rowOf(ids.temperature, present + 3 * day);
  expect(later.weight).toBe(Math.max(before.weight, 35));
  const codes = async (at: number) =>
    (await round(test_.db, new Date(at))).stops[0]!.findings.map((f) => [f.code, f.text]);
  expect(await codes(present + day)).not.toContainEqual(['contact-old', expect.anything()]);
  expect(await codes(present + 3 * day)).toContainEqual(['contact-old', 'The logger: last contact 3 d ago']);
  expect((await rowOf(gauge, present + 3 * day)).word).toBe((await rowOf(gauge)).word);
});

test('a file into one channel reopens what was approved of it, and of no other', async () => {
  const at = (minutes: number) => bench.at(present + minutes * 60_000, bench.people.reviewer);
  const approved = async (channelId: string) => (await rowOf(channelId)).approved;
  const mast = await channelIn('Mast');
  for (const channelId of [ids.temperature, mast])
    await approveSpan(at(1), bench.stationId, channelId, {
      layerId: newId(),
      from: new Date(present - 2 * day).toISOString(),
      until: new Date(present).toISOString(),
    });
  const column = (id: string) => [
    {
      column: 1,
      unit: '°' as const,
      channel: { kind: 'existing' as const, id, quantity: 'windDirection' as const },
    },
  ];
  const stamp = new Date(present - day + 60_000).toISOString().slice(0, 19);
  await importText(bench, `time,v\n${stamp},1`, plainPlan(column(mast)), { ctx: at(2) });
  expect((await approved(mast))!.reopened).toBe('values stored since: record.csv');
  expect((await approved(ids.temperature))!.reopened).toBeNull();
});

test('the counts of the words add up to the list, with and without a filter, at any present', async () => {
  for (const at of [present, present + 3 * day, present + 400 * day])
    for (const query of ['', 'text=arch', 'quantity=windDirection']) {
      const all = await list(query, at);
      expect(Object.values(all.words).reduce((n, w) => n + w, 0)).toBe(all.total);
      for (const word of Object.keys(all.words)) {
        const some = await list(`${query}&word=${encodeURIComponent(word)}`, at);
        expect(some.total).toBe(all.words[word as keyof typeof all.words]);
        expect(some.rows.every((r) => r.word === word)).toBe(true);
      }
    }
});
