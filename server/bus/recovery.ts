import type { Transaction } from 'sequelize';
import type { BeginRecovery, StepRecovery } from '@/contract/busRequests';
import { serialDifferences, type SerialSettings } from '@/core/bus/serial';
import { causeKinds, type Cause } from '@/core/recovery/cause';
import { recover, remainingText, type Evidence, type Verified } from '@/core/recovery/recovery';
import { recoverySteps, type Heard, type Results } from '@/core/recovery/steps';
import { row } from '@/db/database';
import { openLine } from '@/devices/gatewayLine';
import { recordAct } from '../book/recordAct';
import type { Context } from '../context';
import { askLogger } from '../device/askLogger';
import { withLease, type Lease } from '../device/lease';
import { loggerLink } from '../device/loggerLink';
import { newId } from '../id';
import { inTheWay, Problem } from '../problem';
import { atStation } from '../station/atStation';
import { isLogged, loadStation, type StationGraph } from '../station/stationGraph';
import { askUnit, busLineOf, heardOf, type BusLine } from './line';
import { busDevice, loadSearch, type Search } from './recoveryCase';
import { isOver, openSessionOn, requireHeld } from './session';

/** The search for why a device on a serial line does not answer: what is tried, what it means, what is put right. */

export async function beginRecovery(
  ctx: Context,
  stationId: string,
  { recoveryId, installationId }: BeginRecovery,
): Promise<{ recoveryId: string }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const { installation } = busDevice(graph, installationId);
    const open = await row(ctx.db.recovery, {
      where: { stationId, installationId, endedAt: null },
      transaction: tx,
    });
    // Two who look for one fault look together.
    if (open) return { recoveryId: open.id };
    await ctx.db.recovery.create(
      { stationId, id: recoveryId, installationId, begunAt: ctx.now(), personId: ctx.person.id },
      { transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'talk',
      text: `Began to look for why ${installation.sensor.serial} (ID ${installation.row.busId}) does not answer`,
      action: 'recovery.begin',
      subject: { recoveryId, installationId },
    });
    return { recoveryId };
  });
}

/** Does one step, or takes what a person measured, and puts on file what it means. */
export async function stepRecovery(
  ctx: Context,
  stationId: string,
  recoveryId: string,
  { number, done }: StepRecovery,
): Promise<{ number: number }> {
  const { graph, search, line } = await openSearch(ctx, stationId, recoveryId, number);
  if (isStep(done) && recoverySteps[done.step].holds) await requireHeld(ctx, stationId, line);
  const evidence = await (async (): Promise<Evidence> => {
    switch (done.step) {
      case 'skip':
        return { step: done.of, result: null };
      case 'light':
        return { step: 'light', result: { light: done.light } };
      case 'idle':
      case 'supply':
        return { step: done.step, result: { volts: done.volts } };
      case 'reach':
        return { step: 'reach', result: await reach(line) };
      case 'others':
        return { step: 'others', result: await askOthers(ctx, search, line) };
      case 'whose':
        return { step: 'whose', result: await askStrangers(ctx, search, line) };
      case 'any-id':
        return { step: 'any-id', result: await askAnyId(ctx, search, line) };
      case 'speeds':
        return { step: 'speeds', result: await askByHand(ctx, search, line, done.at) };
      case 'mended':
        refuseUnfound(search, done.cause);
        return { step: 'mended', result: { cause: done.cause, heard: await hearNow(ctx, search, line) } };
      case 'verified':
        return { step: 'verified', result: await throughLogger(ctx, graph, search, line) };
      case 'alone':
      case 'ask':
      case 'swap':
        return { step: done.step, result: { heard: await hearNow(ctx, search, line) } };
    }
  })();
  await atStation(ctx, stationId, (tx) => keepStep(ctx, tx, graph, search, number, evidence));
  return { number };
}

const isStep = (
  done: StepRecovery['done'],
): done is Exclude<StepRecovery['done'], { step: 'skip' | 'mended' | 'verified' }> =>
  done.step !== 'skip' && done.step !== 'mended' && done.step !== 'verified';

/** What its logger shows of the device, polling it again by itself. */
async function throughLogger(
  ctx: Context,
  graph: StationGraph,
  { installation }: Search,
  line: BusLine,
): Promise<Verified> {
  const session = await openSessionOn(ctx.db, graph.station.id, line.portId);
  if (session && !isOver(session, ctx.now()))
    throw inTheWay(
      'line-held',
      `The logger does not poll ${line.name} while you hold it.`,
      'Give the line back, then look through the logger.',
    );
  const fed = graph.channels.filter(
    (c) => isLogged(c) && c.installation?.row.id === installation.row.id && c.written?.settings.enabled,
  );
  const live = await askLogger(
    async () => (await loggerLink(ctx, graph)).live(),
    'The logger gave no live values',
    'Nothing was kept. Look at the logger, then try again.',
  );
  const shows = (number: number | null) => live.channels.some((l) => l.number === number && l.value !== null);
  return { shown: fed.filter((c) => shows(c.row.number)).length, channels: fed.length };
}

/** Ends a search, whether it came to something or not: what remains is said. */
export async function endRecovery(
  ctx: Context,
  stationId: string,
  recoveryId: string,
): Promise<{ ended: boolean }> {
  return atStation(ctx, stationId, async (tx) => {
    const graph = await loadStation(ctx.db, stationId, tx);
    const search = await loadSearch(ctx.db, graph, recoveryId, tx);
    if (search.row.endedAt) return { ended: false };
    const state = recover(
      search.what,
      search.steps.map((s) => s.evidence),
    );
    await ctx.db.recovery.update(
      { endedAt: ctx.now(), endedBy: ctx.person.id },
      { where: { stationId, id: recoveryId }, transaction: tx },
    );
    const { serial } = search.installation.sensor;
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'talk',
      text:
        state.verdict === 'answers'
          ? `${serial} answers again${state.verified ? ', and its logger shows it' : state.verified === null ? '; nobody looked through its logger' : ', but its logger does not show all of it'}`
          : `Gave up the search at ${serial} after ${search.steps.length} steps: ${remainingText(state)}`,
      sum:
        state.excluded
          .map((x) => `not ${causeKinds[x.cause].name}: ${x.because}`)
          .join(' ')
          .slice(0, 800) || null,
      action: 'recovery.end',
      subject: { recoveryId, verdict: state.verdict, remaining: state.remaining },
    });
    return { ended: true };
  });
}

/** A search that is open, at the step its person looks at; refused where somebody else went on. */
export async function openSearch(
  ctx: Context,
  stationId: string,
  recoveryId: string,
  number: number,
): Promise<{ graph: StationGraph; search: Search; line: BusLine }> {
  const graph = await loadStation(ctx.db, stationId);
  const search = await loadSearch(ctx.db, graph, recoveryId);
  refuseStale(search, number);
  return { graph, search, line: await busLineOf(ctx, graph, search.installation.port.id) };
}

function refuseStale(search: Search, number: number): void {
  if (search.row.endedAt)
    throw inTheWay(
      'search-ended',
      'This search was ended.',
      'Begin another one, if it does not answer still.',
    );
  if (number !== search.steps.length + 1)
    throw inTheWay(
      'search-went-on',
      `Somebody went on meanwhile: there are ${search.steps.length} steps.`,
      'Look at them, then go on from there.',
    );
}

/** Puts a step on file, if nobody went on meanwhile. */
export async function keepStep(
  ctx: Context,
  tx: Transaction,
  graph: StationGraph,
  { row: { id: recoveryId }, installation, what }: Search,
  number: number,
  evidence: Evidence,
): Promise<void> {
  const stationId = graph.station.id;
  const now = await loadSearch(ctx.db, graph, recoveryId, tx);
  refuseStale(now, number);
  await ctx.db.recoveryStep.create(
    { stationId, recoveryId, number, evidence, at: ctx.now(), personId: ctx.person.id },
    { transaction: tx },
  );
  const state = recover(what, [...now.steps.map((s) => s.evidence), evidence]);
  const title =
    evidence.step === 'mended'
      ? 'put right'
      : evidence.step === 'verified'
        ? 'through its logger'
        : recoverySteps[evidence.step].title.toLowerCase();
  await recordAct(ctx, tx, {
    id: newId(),
    stationId,
    occurredAt: ctx.now(),
    kind: 'talk',
    text: `${installation.sensor.serial}, ${title}: ${state.meanings.at(-1)}`,
    action: 'recovery.step',
    subject: { recoveryId, number, evidence },
  });
}

/** Only what was found is put right: what was tried before is forgotten with it. */
function refuseUnfound({ what, steps }: Search, cause: Cause): void {
  const { found } = recover(
    what,
    steps.map((s) => s.evidence),
  );
  if (found !== cause)
    throw inTheWay(
      'not-found-yet',
      `It was not found that ${causeKinds[cause].name}.`,
      'Go on with the next step.',
    );
}

const onLease = <T>(ctx: Context, line: BusLine, work: (lease: Lease) => Promise<T>): Promise<T> =>
  withLease(ctx.db, line.line, newId(), work);

async function reach(line: BusLine): Promise<Results['reach']> {
  try {
    (await openLine(line.at, 2000, null)).close();
    return { reached: true };
  } catch {
    return { reached: false };
  }
}

const noGateway = (line: BusLine) =>
  new Problem({
    code: 'gateway-lost',
    status: 409,
    title: 'Gateway not reached',
    detail: `The gateway at ${line.gatewayAddress} could not be reached, or did not let itself be set.`,
    remedy: 'Look at its power and its network, then do this step again.',
  });

/** What its own first registers bring, at the ID and in the parameters on file. */
export async function hearAt(
  line: BusLine,
  lease: Lease,
  unit: number,
  options: { serial?: SerialSettings; timeOut?: number; quarantine?: number } = {},
): Promise<Heard> {
  const heard = heardOf(
    await askUnit(line, lease, unit, { fn: 3, address: 0, count: 1 }, { quarantine: 300, ...options }),
  );
  if (heard === 'no-gateway') throw noGateway(line);
  return heard;
}

const hearNow = (ctx: Context, search: Search, line: BusLine): Promise<Heard> =>
  onLease(ctx, line, (lease) => hearAt(line, lease, search.what.busId));

async function askOthers(ctx: Context, { what }: Search, line: BusLine): Promise<Results['others']> {
  return onLease(ctx, line, async (lease) => {
    let answered = 0;
    for (const id of what.others)
      if ((await hearAt(line, lease, id, { timeOut: 600, quarantine: 200 })) === 'answer') answered++;
    return { answered, asked: what.others.length };
  });
}

/** Which of the IDs that answered and nobody knows are silent now. */
async function askStrangers(ctx: Context, { steps }: Search, line: BusLine): Promise<Results['whose']> {
  const scan = steps.findLast((s) => s.evidence.step === 'scan')?.evidence;
  const strangers = scan?.step === 'scan' ? (scan.result?.found ?? []) : [];
  return onLease(ctx, line, async (lease) => {
    const silent: number[] = [];
    for (const id of strangers)
      if ((await hearAt(line, lease, id, { timeOut: 600, quarantine: 200 })) === 'silence') silent.push(id);
    return { silent };
  });
}

async function askAnyId(
  ctx: Context,
  { what, connection }: Search,
  line: BusLine,
): Promise<Results['any-id']> {
  return onLease(ctx, line, async (lease) => {
    const request = { fn: 3 as const, address: connection.management!.idRegister, count: 1 };
    const answer = await askUnit(line, lease, what.anyId!, request);
    if (heardOf(answer) === 'no-gateway') throw noGateway(line);
    return { id: answer.ok ? answer.registers[0]! : null };
  });
}

/** Asks at a combination that somebody set the gateway to by hand. */
async function askByHand(
  ctx: Context,
  search: Search,
  line: BusLine,
  at: SerialSettings,
): Promise<Results['speeds']> {
  const heard = await hearNow(ctx, search, line);
  const before = triedSince(search).filter((t) => serialDifferences(t, at).length > 0);
  return { tried: [...before, at], at: heard === 'answer' ? at : null };
}

/** Combinations tried since something was last put right. */
export function triedSince({ steps }: Search): readonly SerialSettings[] {
  const since = steps.findLastIndex((s) => s.evidence.step === 'mended');
  const newest = steps.slice(since + 1).findLast((s) => s.evidence.step === 'speeds')?.evidence;
  return newest?.step === 'speeds' ? (newest.result?.tried ?? []) : [];
}
