import type { Transaction } from 'sequelize';
import type { BeginBench, BenchRead, EndBench } from '@/contract/bench';
import { isMeasured } from '@/core/circuit/path';
import { mediaFor, mediumWords } from '@/core/circuit/together';
import { outputOf } from '@/core/device/profile';
import { isDead, type BenchReading, type BenchSetup, type Measured } from '@/core/circuit/session';
import { explained, rigOfSession, verdictOf } from '@/core/circuit/verdict';
import { ohmsText } from '@/core/circuit/words';
import { quantityOf } from '@/core/quantity/quantity';
import { row, rows } from '@/db/database';
import type { BenchSessionRow } from '@/db/rows';
import { personTime } from '../book/fieldBook';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { badField, inTheWay, notFound } from '../problem';
import { atStation } from '../station/atStation';
import { channelOf, loadStation, type StationGraph } from '../station/stationGraph';
import { setupOf } from './view';

/** Begins to measure a sensor: its circuit is kept as it is now. */
export async function beginBench(
  ctx: Context,
  stationId: string,
  request: BeginBench,
): Promise<{ sessionId: string }> {
  const at = personTime(ctx, request.occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const channel = channelOf(graph, request.channelId);
    const { installation, output } = channel;
    if (!installation || installation.row.id !== request.installationId || !output)
      throw inTheWay(
        'not-its-sensor',
        `${channel.name} is not fed by that sensor.`,
        'Load the page again, and choose the sensor anew.',
      );
    if (!isMeasured(installation.profile))
      throw inTheWay(
        'nothing-to-measure',
        `${installation.sensor.serial} has nothing along its path that a meter judges.`,
        'Talk to it under Connect instead.',
      );
    const meter = await row(ctx.db.meter, { where: { id: request.meterId }, transaction: tx });
    if (!meter || meter.retiredAt) throw notFound('meter', request.meterId);
    const open = await row(ctx.db.benchSession, {
      where: { stationId, installationId: request.installationId, endedAt: null },
      transaction: tx,
    });
    if (open)
      throw inTheWay(
        'measured-already',
        `${installation.sensor.serial} is being measured already.`,
        'Go on with that one, or end it.',
        { sessionId: open.id },
      );
    const setup: BenchSetup = {
      outputKey: output.key,
      leads: setupOf(graph, installation).leads,
      input: request.input,
    };
    // What cannot be drawn is not begun.
    rigOfSession(installation.profile, setup);
    await ctx.db.benchSession.create(
      {
        stationId,
        id: request.sessionId,
        installationId: request.installationId,
        channelId: request.channelId,
        meterId: request.meterId,
        setup,
        openedAt: at,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
      },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId: request.channelId,
      occurredAt: at,
      kind: 'bench',
      text: `Began to measure ${installation.sensor.serial} (${installation.row.zoneName}) with ${meter.name} ${meter.serial}`,
      action: 'bench.begin',
      subject: { sessionId: request.sessionId, installationId: request.installationId },
    });
    return { sessionId: request.sessionId };
  });
}

/** One reading of it. */
export async function readBench(
  ctx: Context,
  stationId: string,
  sessionId: string,
  request: BenchRead,
): Promise<{ readingId: string }> {
  const at = personTime(ctx, request.occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const { session, graph, readings } = await openSession(ctx, tx, stationId, sessionId);
    const { measured, shows } = request;
    const fault = faultOf(measured, shows);
    if (fault) throw badField('not-measured', fault.field, fault.value, fault.says, fault.remedy);
    if (measured.kind === 'placed') requireMedium(graph, session, measured);
    if (measured.kind === 'ohms' && !isDead(readings))
      throw inTheWay(
        'not-dead',
        'Ohms are measured only where volts, AC and DC, were looked for and are near nothing.',
        'Measure volts between the leads first.',
      );
    if (measured.kind === 'ohms') requireNodes(graph, session, measured);
    await ctx.db.benchReading.create(
      {
        stationId,
        id: request.readingId,
        sessionId,
        measured,
        shows,
        typed: request.typed,
        occurredAt: at,
        personId: ctx.person.id,
        recordedAt: ctx.now(),
      },
      { transaction: tx },
    );
    const unit = quantityOf(channelOf(graph, session.channelId).row.quantity).unit;
    await recordAct(ctx, tx, {
      stationId,
      channelId: session.channelId,
      occurredAt: at,
      kind: 'bench',
      text: readingText(measured, shows, request.typed, unit),
      action: 'bench.read',
      subject: { sessionId, readingId: request.readingId },
    });
    return { readingId: request.readingId };
  });
}

/** What it came to: the explanation the person settles on, judged again here. */
export async function endBench(
  ctx: Context,
  stationId: string,
  sessionId: string,
  request: EndBench,
): Promise<{ likelihood: number | null }> {
  const at = personTime(ctx, request.occurredAt);
  return atStation(ctx, stationId, async (tx) => {
    const { session, graph, readings } = await openSession(ctx, tx, stationId, sessionId);
    const { profile } = channelOf(graph, session.channelId).installation!;
    const meter = await row(ctx.db.meter, { where: { id: session.meterId }, transaction: tx });
    const verdict = verdictOf(profile, session.setup, readings);
    const its = explained(
      verdict,
      meter!.ranges.positions,
      profile,
      session.setup.outputKey,
      request.outcome,
    );
    if (!its && request.outcome !== 'undecided')
      throw badField(
        'no-such-explanation',
        'outcome',
        request.outcome,
        `"${request.outcome}" is none of what may be the matter here.`,
        'Choose one of the list, or leave it undecided.',
      );
    const says = its?.says ?? 'Undecided';
    await ctx.db.benchSession.update(
      {
        endedAt: at,
        endedBy: ctx.person.id,
        outcome: request.outcome,
        says,
        likelihood: its?.likelihood ?? null,
      },
      { where: { stationId, id: sessionId }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      channelId: session.channelId,
      occurredAt: at,
      kind: 'bench',
      text: [
        its ? `${says} (${Math.round(100 * its.likelihood)} %).` : 'Measured, left undecided.',
        request.note,
      ]
        .filter(Boolean)
        .join(' '),
      sum: its?.sum ?? null,
      action: 'bench.end',
      subject: { sessionId, outcome: request.outcome },
    });
    return { likelihood: its?.likelihood ?? null };
  });
}

/** A session that is open, with what was read so far. */
async function openSession(
  ctx: Context,
  tx: Transaction,
  stationId: string,
  sessionId: string,
): Promise<{ session: BenchSessionRow; graph: StationGraph; readings: BenchReading[] }> {
  const session = await row(ctx.db.benchSession, { where: { stationId, id: sessionId }, transaction: tx });
  if (!session) throw notFound('measurement', sessionId);
  if (session.endedAt)
    throw inTheWay(
      'ended-already',
      'This measurement was ended already.',
      'Begin another one, or keep this as a note.',
    );
  const graph = await loadStation(ctx.db, stationId, tx);
  const found = await rows(ctx.db.benchReading, {
    where: { stationId, sessionId },
    order: [
      ['occurredAt', 'ASC'],
      ['id', 'ASC'],
    ],
    transaction: tx,
  });
  return {
    session,
    graph,
    readings: found.map(({ id, measured, shows, typed, occurredAt }) => ({
      id,
      measured,
      shows,
      typed,
      at: occurredAt.getTime(),
    })),
  };
}

/** Kinds that need a position of the dial, two points, an uncertainty. */
const needs: Readonly<Record<Measured['kind'], readonly ('range' | 'pair' | 'through' | 'u')[]>> = {
  'as-found': ['u'],
  after: [],
  reference: ['u'],
  'dead-dc': ['range'],
  'dead-ac': [],
  zero: ['range'],
  ohms: ['range', 'pair'],
  volts: ['range', 'pair'],
  milliamps: ['range', 'through'],
  counts: ['u'],
  placed: [],
};

/** What is wrong with a reading beyond its form. */
function faultOf(
  m: Measured,
  shows: number | null,
): { field: string; value: unknown; says: string; remedy: string } | null {
  const missing = (field: string, what: string) => ({
    field: `measured.${field}`,
    value: null,
    says: `A reading of this kind needs ${what}.`,
    remedy: 'Add it.',
  });
  const asked = needs[m.kind];
  if (asked.includes('range') && !m.range) return missing('range', 'the position of the dial');
  if (asked.includes('pair') && (m.from === null || m.to === null)) return missing('from', 'two points');
  if (asked.includes('through') && m.through === null) return missing('through', 'the lead it runs through');
  if (asked.includes('u') && !(m.u !== null && m.u > 0)) return missing('u', 'its uncertainty, above 0');
  if (m.range && shows !== null && Math.abs(shows) > m.range.upTo)
    return {
      field: 'shows',
      value: shows,
      says: `A position up to ${m.range.upTo} does not show ${shows}.`,
      remedy: 'Look at the dial: type what it shows there, or OL.',
    };
  if ((m.kind === 'ohms' || m.kind === 'zero') && shows !== null && shows < 0)
    return { field: 'shows', value: shows, says: 'Resistance is never below 0.', remedy: 'Read it again.' };
  return null;
}

/** What the sensor may be put into. */
function requireMedium(graph: StationGraph, session: BenchSessionRow, { medium }: Measured): void {
  const { profile } = channelOf(graph, session.channelId).installation!;
  const allowed = mediaFor(profile, outputOf(profile, session.setup.outputKey)!.quantity);
  if (!medium || !allowed.includes(medium))
    throw badField(
      'not-into-that',
      'measured.medium',
      medium ?? null,
      medium === 'water'
        ? `${profile.name} is not made to lie in water.`
        : `${profile.name} is not put together with a thermometer so.`,
      allowed.length > 0
        ? `Choose: ${allowed.map((m) => mediumWords[m].name.toLowerCase()).join(', or ')}.`
        : 'Compare it with a reference where it hangs.',
    );
}

/** Points that the circuit has. */
function requireNodes(graph: StationGraph, session: BenchSessionRow, { from, to }: Measured): void {
  const { profile } = channelOf(graph, session.channelId).installation!;
  const rig = rigOfSession(profile, session.setup);
  const nodes = new Set(rig.at(rig.range[1]).points.map((p) => p.node));
  for (const [field, node] of [
    ['measured.from', from],
    ['measured.to', to],
  ] as const)
    if (!nodes.has(node!))
      throw badField(
        'no-such-point',
        field,
        node,
        `The circuit has no point "${node}".`,
        'Choose one of its points.',
      );
  if (from === to)
    throw badField('one-point', 'measured.to', to, 'Both clips are on one point.', 'Choose two.');
}

/** What a logger shows, with the time of what was taken from its record. */
function logged(shows: number | null, typed: string, unit: string): string {
  const at = / logged (.+)$/.exec(typed)?.[1];
  return shows === null ? 'no value' : `${shows} ${unit}${at ? `, logged ${at}` : ''}`;
}

/** A reading as it stands in the field book. */
function readingText(m: Measured, shows: number | null, typed: string, unit: string): string {
  const dial = m.range ? `, on the position up to ${m.range.upTo}` : '';
  switch (m.kind) {
    case 'as-found':
      return `As found: the logger shows ${logged(shows, typed, unit)}`;
    case 'after':
      return `After reconnecting: the logger shows ${logged(shows, typed, unit)}`;
    case 'reference':
      return `Reference beside the sensor: ${shows} ${unit}`;
    case 'dead-dc':
      return `Volts DC between the leads: ${typed}`;
    case 'dead-ac':
      return `Volts AC between the leads: ${typed}`;
    case 'zero':
      return `Probes together: ${typed}${dial}`;
    case 'ohms':
      return `${m.from} – ${m.to}${m.closed === null ? '' : m.closed ? ', closed' : ', open'}: ${shows === null ? 'over the range' : ohmsText(shows)} (typed ${typed}${dial})`;
    case 'volts':
      return `Volts ${m.from} – ${m.to}: ${typed}${dial}`;
    case 'milliamps':
      return `mA through ${m.through}: ${typed}${dial}`;
    case 'placed':
      return `Put together with a thermometer: ${mediumWords[m.medium!].name.toLowerCase()}`;
    case 'counts':
      return `The logger counts ${shows} of ${m.u}`;
  }
}
