import { plainCheckPlan } from '@/test/plainCheckPlan';
import { correctionAt } from '@/core/series/correction';
import { row } from '@/db/database';
import { day, present, type TestBench } from '@/test/bench';
import type { TestDatabase } from '@/test/database';
import { onConnectedBench, type Connected } from '@/test/onBench';
import { newId } from '../id';
import { loadStation } from '../station/stationGraph';
import { activeLayers, correctionsOf } from '../verify/layers';
import { gatherFacts } from './facts';

/** What the gatherer hands on to the one judgement. */
let test_: TestDatabase;
let bench: TestBench;
let ids: Connected;
onConnectedBench((made) => ({ test_, bench, ids } = made));

const facts = async () =>
  (await gatherFacts(test_.db, await loadStation(test_.db, bench.stationId))).facts.channels.find(
    (c) => c.id === ids.temperature,
  )!;

/** A closed check as it stands on file. */
async function closed(daysAgo: number, outcome: string, difference: number | null): Promise<void> {
  await test_.arrange(
    `insert into reference_check (station_id, id, channel_id, installation_id, instrument_id, plan, opened_at, opened_by, outcome,
        closed_at, closing_difference, result)
     values ($1, $2, $3, $4, $5, $10::jsonb, $6, $7, $8, $6, $9::float8,
        jsonb_build_object('limit', 0.5, 'asFound', null, 'asLeft', null, 'budget', case when $9::float8 is null then null else jsonb_build_object('meanDifference', $9::float8) end))`,
    [
      bench.stationId,
      newId(),
      ids.temperature,
      ids.installationId,
      bench.instrumentId,
      new Date(present - daysAgo * day),
      bench.people.technician.id,
      outcome,
      difference,
      JSON.stringify(plainCheckPlan),
    ],
  );
}

test('a check that decided nothing changes nothing: neither what is known nor when the next is due', async () => {
  await closed(40, 'left-outside', 0.9);
  const known = (await facts()).reference;
  expect(known.last).toMatchObject({ outcome: 'left-outside', difference: 0.9, at: present - 40 * day });
  await closed(20, 'not-settled', 0.1);
  await closed(10, 'abandoned', null);
  expect((await facts()).reference).toEqual(known);
  await closed(5, 'agree', 0.2);
  expect((await facts()).reference.last).toMatchObject({ outcome: 'agree', at: present - 5 * day });
});
test('a difference found by a check that did not settle is no point of a drift', async () => {
  expect((await facts()).reference.found.map((f) => f.difference)).toEqual([0.9, 0.2]);
  const instrument = (await row(test_.db.instrument, { where: { id: bench.instrumentId } }))!;
  expect((await facts()).reference.found[0]).toMatchObject({
    reference: instrument.id,
    referenceTolerance: 0.2,
  });
});

test('what a check took out of the record ends with the sensor it was made for', async () => {
  const checkId = (await row(test_.db.check, { where: { outcome: 'agree' } }))!.id;
  const [adjustmentId, layerId] = [newId(), newId()];
  const at = (daysAgo: number) => new Date(present - daysAgo * day);
  await test_.arrange('alter table adjustment disable trigger open_check');
  await test_.arrange(
    `insert into adjustment (station_id, id, check_id, channel_id, installation_id, place, round, mode, entered, previous, resulting,
        read_at_entry, effective_at, person_id)
     values ($1, $2, $3, $4, $5, 'record', 1, 'added', -1, 0, -1, 17, $6, $7)`,
    [
      bench.stationId,
      adjustmentId,
      checkId,
      ids.temperature,
      ids.installationId,
      at(5),
      bench.people.technician.id,
    ],
  );
  await test_.arrange(
    `insert into layer (station_id, id, channel_id, kind, from_at, parameters, reason, person_id)
     values ($1, $2, $3, 'correction', $4, jsonb_build_object('offset', -1, 'adjustmentId', $5::text), 'a check', $6)`,
    [bench.stationId, layerId, ids.temperature, at(5), adjustmentId, bench.people.technician.id],
  );
  const correction = async () =>
    correctionsOf(await activeLayers(test_.db, bench.stationId, ids.temperature)).find(
      (c) => c.kind === 'adjustment',
    )!;
  expect(await correction()).toMatchObject({ from: at(5).getTime(), until: Infinity, offset: -1 });
  await test_.arrange('update mapping set until_at = $1 where channel_id = $2', [at(2), ids.temperature]);
  const ended = await correction();
  expect(ended.until).toBe(at(2).getTime());
  expect([at(6), at(4), at(2), at(1)].map((d) => correctionAt([ended], d.getTime()).offset)).toEqual([
    0, -1, 0, 0,
  ]);
});
