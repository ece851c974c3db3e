import type { CircuitsView, OwnCircuitView, SaveCircuit } from '@/contract/bench';
import { readOwn } from '@/core/circuit/own';
import { query, type Database } from '@/db/database';
import { storedCircuit } from '@/db/stored/bench';
import { oneSetUp } from '../administer/setUp';
import { audit } from '../book/audit';
import type { Context } from '../context';
import { badField, inTheWay } from '../problem';
import { meters } from './meters';

/** Circuits of the team's own, with the meters they may be measured with. */
export const circuits = async (db: Database): Promise<CircuitsView> => ({
  circuits: await savedCircuits(db),
  meters: await meters(db),
});

/** Those that are not put away, as they were saved last, by name. */
async function savedCircuits(db: Database): Promise<OwnCircuitView[]> {
  const all = await query<{
    id: string;
    revision: number;
    body: unknown;
    isAway: boolean;
    by: string;
    savedAt: Date;
  }>(
    db,
    `select distinct on (c.id) c.id, c.revision, c.body, c.is_away as "isAway", p.initials as by, c.saved_at as "savedAt"
       from own_circuit c join person p on p.id = c.person_id
      order by c.id, c.revision desc`,
  );
  return all
    .filter((c) => !c.isAway)
    .map(({ id, revision, body, by, savedAt }) => ({
      id,
      revision,
      circuit: storedCircuit.read(body),
      by,
      savedAt: savedAt.toISOString(),
    }))
    .sort((a, b) => a.circuit.name.localeCompare(b.circuit.name, 'en'));
}

/** Saves a circuit as its next revision; one that somebody saved meanwhile is not overwritten. */
export async function saveCircuit(
  ctx: Context,
  { circuitId, from, circuit, isAway }: SaveCircuit,
): Promise<{ id: string; revision: number }> {
  const read = readOwn(circuit);
  if ('faults' in read) {
    const { field, says, remedy } = read.faults[0]!;
    throw badField('circuit-unfit', 'circuit', field, `${field}: ${says}.`, remedy);
  }
  return oneSetUp(ctx, async (tx) => {
    const [last] = await query<{ revision: number; by: string }>(
      ctx.db,
      `select c.revision, p.initials as by from own_circuit c join person p on p.id = c.person_id
        where c.id = :circuitId order by c.revision desc limit 1`,
      { circuitId },
      tx,
    );
    if ((last?.revision ?? 0) !== from)
      throw inTheWay(
        'saved-meanwhile',
        last
          ? `${last.by} saved revision ${last.revision} of it meanwhile; yours begins from ${from}.`
          : 'Nothing of it is on file.',
        'Save it under another name, or open theirs and change that.',
        { revision: last?.revision ?? 0 },
      );
    const revision = from + 1;
    await ctx.db.ownCircuit.create(
      { id: circuitId, revision, body: circuit, isAway, personId: ctx.person.id, savedAt: ctx.now() },
      { transaction: tx },
    );
    await audit(ctx, tx, 'kit.circuit', null, { circuitId, revision, isAway });
    return { id: circuitId, revision };
  });
}
