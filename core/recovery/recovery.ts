import { causeKinds, causes, type Cause } from './cause';
import {
  recoverySteps,
  stepNames,
  type Heard,
  type Meaning,
  type RecoveryCase,
  type RecoveryStep,
  type Results,
  type StepName,
} from './steps';

/** One line of what was tried, in its order; null for what nobody could do. */
export type Evidence =
  | { readonly [N in StepName]: { readonly step: N; readonly result: Results[N] | null } }[StepName]
  /** Something was put right, and it was asked again. */
  | { readonly step: 'mended'; readonly result: { readonly cause: Cause; readonly heard: Heard } }
  /** The line was given back, and its logger asked what it shows of it. */
  | { readonly step: 'verified'; readonly result: Verified };

/** Channels of the device that its logger shows a value of, of so many it feeds. */
export interface Verified {
  readonly shown: number;
  readonly channels: number;
}

export interface RecoveryState {
  /** It answers, a cause is found, there is more to try, or nothing is left to try. */
  readonly verdict: 'answers' | 'found' | 'searching' | 'exhausted';
  /** The cause that is found, not yet mended. */
  readonly found: Cause | null;
  /** What it still may be; one cause at a time is looked for. */
  readonly remaining: readonly Cause[];
  /** What is out of the question, and why. */
  readonly excluded: readonly { readonly cause: Cause; readonly because: string }[];
  readonly next: StepName | null;
  /** Where it answers: whether its logger shows all of it; null while nobody looked since. */
  readonly verified: boolean | null;
  /** What each line of the evidence means. */
  readonly meanings: readonly string[];
}

const meaningOf = (e: Evidence, c: RecoveryCase, before: Heard | null): Meaning => {
  if (e.step === 'mended')
    return {
      says: `${causeKinds[e.result.cause].name}: put right, ${e.result.heard === 'answer' ? 'and it answers' : 'and it does not answer yet'}.`,
    };
  if (e.step === 'verified') return { says: verifiedText(e.result) };
  if (e.result === null) return { says: 'Not possible now: what it would have told stays open.' };
  return (recoverySteps[e.step] as RecoveryStep<StepName>).means(e.result, c, before);
};

const verifiedText = ({ shown, channels }: Verified): string =>
  shown === channels && channels > 0
    ? `Its logger polls it again and shows all ${channels} channels.`
    : `Its logger shows ${shown} of ${channels} channels: look at their settings, and at the speed and ID it polls at.`;

/**
 * What still holds of the evidence, given what was mended last: what was heard before says nothing any more, nor
 * does what led to the cause; what was measured or looked at otherwise does. The mending's own asking counts.
 */
function stillHolds(c: RecoveryCase, evidence: readonly Evidence[]): readonly Evidence[] {
  const at = evidence.findLastIndex((e) => e.step === 'mended');
  return evidence.flatMap((e, i): readonly Evidence[] => {
    // What the logger shows says nothing of a cause.
    if (e.step === 'verified') return [];
    if (e.step === 'mended') return i === at ? [{ step: 'ask', result: { heard: e.result.heard } }] : [];
    if (i > at) return [e];
    const ledTo =
      meaningOf(e, c, null).finds !== undefined ||
      (e.step === 'light' && e.result?.light === 'off') ||
      (e.step === 'others' && e.result?.answered === 0);
    return recoverySteps[e.step].listens || ledTo ? [] : [e];
  });
}

const unique = <T>(list: readonly T[]): T[] => [...new Set(list)];

/**
 * What the evidence so far means, and what to try next. One cause at a time is assumed: silence is explained by
 * what is wrong alone. With two things wrong at once, each that a measurement of its own can find is found and
 * mended, and the search goes on from there; what no measurement tells apart is named as what remains. Common
 * practice, no source, for the order; the exclusions follow from what silence, noise and an answer can mean.
 *
 * @param c what is known of the device beforehand
 * @param evidence what was tried, oldest first
 */
export function recover(c: RecoveryCase, evidence: readonly Evidence[]): RecoveryState {
  const valid = stillHolds(c, evidence);
  const asked = valid.findLast((e) => e.step === 'ask');
  const before = (asked?.result as Results['ask'] | null | undefined)?.heard ?? null;
  const meanings = evidence.map((e) => meaningOf(e, c, before).says);
  const weighed = valid.map((e) => ({ e, ...meaningOf(e, c, before) }));
  const excluded = unique(weighed.flatMap((w) => w.excludes ?? [])).map((cause) => ({
    cause,
    because: weighed.find((w) => w.excludes?.includes(cause))!.says,
  }));
  const out = new Set<Cause>(excluded.map((x) => x.cause));
  const left = causes.filter((x) => !out.has(x));
  const found =
    weighed.findLast((w) => w.finds)?.finds ?? (left.length === 1 && left[0] !== 'dead' ? left[0]! : null);
  const remaining = found ? [found] : left;
  const state = (verdict: RecoveryState['verdict'], next: StepName | null = null): RecoveryState => ({
    verdict,
    found,
    remaining: verdict === 'answers' ? [] : remaining,
    excluded,
    next,
    verified: verdict === 'answers' ? verifiedNow(evidence) : null,
    meanings,
  });
  if (before === 'answer') return { ...state('answers'), found: null };
  if (found) return state('found');
  const done = new Set(
    valid.filter((e) => e.step !== 'speeds' || e.result === null || triedAll(c, valid)).map((e) => e.step),
  );
  const scan = valid.findLast((e) => e.step === 'scan');
  const strangers = scan?.step === 'scan' ? (scan.result?.found ?? []) : [];
  const next = stepNames.find((name) => {
    const step = recoverySteps[name];
    return !done.has(name) && step.applies(c, strangers) && step.tells.some((t) => remaining.includes(t));
  });
  return next ? state('searching', next) : state('exhausted');
}

/** What the logger showed since it was last asked or mended. */
function verifiedNow(evidence: readonly Evidence[]): boolean | null {
  const last = evidence.at(-1);
  return last?.step === 'verified'
    ? last.result.channels > 0 && last.result.shown === last.result.channels
    : null;
}

/** Whether the newest list of what was tried leaves nothing to try. */
function triedAll(c: RecoveryCase, evidence: readonly Evidence[]): boolean {
  const newest = evidence.findLast((e) => e.step === 'speeds');
  return (
    newest?.step !== 'speeds' || newest.result === null || meaningOf(newest, c, null).excludes !== undefined
  );
}

/**
 * The causes that remain, in words a person can hand on.
 *
 * @param state what the evidence means
 * @example remainingText({ remaining: ['supply', 'dead'] }) // 'it has no supply, or too little; or the device itself has failed, or more than one thing is wrong at once'
 */
export const remainingText = ({ remaining }: Pick<RecoveryState, 'remaining'>): string =>
  remaining.map((x) => causeKinds[x].name).join('; or ');
