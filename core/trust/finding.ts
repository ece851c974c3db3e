import { formatAge } from '../quantity/format';

/** The five stones of a station's cairn, bottom to top: each hop group stands on the one below. */
export const stoneNames = ['power and link', 'wiring', 'settings', 'reference', 'record'] as const;
export type StoneName = (typeof stoneNames)[number];

/** sound: done and holding. missing: never done. displaced: done, and now failing or overdue. */
export type StoneState = 'sound' | 'missing' | 'displaced';

/** What a finding is about. */
export interface Subject {
  readonly kind: 'station' | 'logger' | 'installation' | 'channel';
  readonly id: string;
}

/** One word for how far a channel's values can be trusted: that of its heaviest finding. */
export type StandingWord = 'good' | 'unused' | FindingWord;
type FindingWord =
  | 'write unknown'
  | 'no contact'
  | 'silent'
  | 'supply'
  | 'stuck'
  | 'no answer'
  | 'no profile'
  | 'off'
  | 'settings differ'
  | 'not activated'
  | 'unlike twin'
  | 'unlike gauge'
  | 'read-out due'
  | 'failing'
  | 'clock off'
  | 'gaps'
  | 'drifting'
  | 'suspect'
  | 'check open'
  | 'unchecked'
  | 'overdue'
  | 'not set up'
  | 'not written'
  | 'empty'
  | 'not collected';

interface Kind {
  readonly stone: StoneName;
  /** How much it matters, 0–100. */
  readonly weight: number;
  /** What it makes of the channels it bears on; null where it says nothing of their values. */
  readonly word: FindingWord | null;
}

const kind = (weight: number, stone: StoneName, word: FindingWord | null): Kind => ({ weight, stone, word });

/**
 * Every reason why a station needs someone, on one scale for the Round and for Verify: our own, common
 * practice behind it. What may be acting on the world right now outweighs what spoils the record, which
 * outweighs what is only due.
 */
export const findingKinds = {
  'left-open': kind(97, 'wiring', null),
  'action-unknown': kind(95, 'power and link', 'write unknown'),
  'link-failed': kind(90, 'power and link', 'no contact'),
  'record-stopped': kind(85, 'record', 'silent'),
  'supply-outside': kind(80, 'power and link', 'supply'),
  stuck: kind(78, 'record', 'stuck'),
  'talk-failed': kind(75, 'wiring', 'no answer'),
  'profile-missing': kind(72, 'settings', 'no profile'),
  'does-not-converge': kind(74, 'reference', 'off'),
  'beyond-tolerance': kind(73, 'reference', 'off'),
  'read-back-differs': kind(70, 'settings', 'settings differ'),
  'unlike-twin': kind(66, 'record', 'unlike twin'),
  'unlike-gauge': kind(65, 'record', 'unlike gauge'),
  'launch-ends': kind(63, 'record', 'read-out due'),
  'values-failed': kind(62, 'record', 'failing'),
  'clock-off': kind(60, 'record', 'clock off'),
  'not-activated': kind(71, 'settings', 'not activated'),
  'not-stored': kind(56, 'settings', null),
  'own-differs': kind(41, 'settings', null),
  'own-staged': kind(37, 'settings', null),
  'activated-for-nothing': kind(22, 'settings', null),
  gap: kind(50, 'record', 'gaps'),
  drifting: kind(48, 'reference', 'drifting'),
  'values-suspect': kind(46, 'record', 'suspect'),
  'check-open': kind(45, 'reference', 'check open'),
  'reference-off': kind(58, 'reference', 'unchecked'),
  'part-changed': kind(59, 'reference', 'unchecked'),
  'never-checked': kind(44, 'reference', 'unchecked'),
  'check-overdue': kind(42, 'reference', 'overdue'),
  'never-written': kind(40, 'settings', 'not set up'),
  staged: kind(38, 'settings', 'not written'),
  'firmware-bad': kind(39, 'settings', null),
  'factory-log-in': kind(39, 'power and link', null),
  'never-collected': kind(37, 'record', 'empty'),
  'never-contacted': kind(36, 'power and link', 'no contact'),
  'contact-old': kind(35, 'power and link', 'not collected'),
  'not-collected': kind(35, 'record', 'not collected'),
  'never-talked': kind(34, 'wiring', null),
  'leads-unrecorded': kind(20, 'wiring', null),
} as const satisfies Record<string, Kind>;
export type FindingCode = keyof typeof findingKinds;

/** Every word of a channel, heaviest first. */
export const standingWords: readonly StandingWord[] = [
  ...new Set(Object.values(findingKinds).flatMap((k) => k.word ?? [])),
  'good',
  'unused',
];

/** One reason why a station needs someone. It depends on no present: it says from when until when it holds. */
export interface Finding {
  readonly code: FindingCode;
  readonly subject: Subject;
  /** What it is about, by its name: "Map store humidity". */
  readonly who: string;
  readonly stone: StoneName;
  readonly state: Exclude<StoneState, 'sound'>;
  readonly weight: number;
  /** ms since epoch; ±Infinity where it has always held, or goes on. The end is outside. */
  readonly from: number;
  readonly until: number;
  /** What is the matter, with its numbers; ages stand as `{ago …}` until they are said, see `saidAt`. */
  readonly text: string;
  /** What to do next. */
  readonly next: string;
  /** What to bring. */
  readonly bring: readonly string[];
  /** The place in the trace that matters, ms since epoch; null for the newest value. */
  readonly placeAt: number | null;
  /** The channels whose values it bears on. */
  readonly channels: readonly string[];
}

/**
 * An age in a finding's text, reckoned when it is said.
 *
 * @param ms the instant it counts from, ms since epoch
 * @example ago(0) // '{ago 0}'
 */
export const ago = (ms: number): string => `{ago ${Math.round(ms)}}`;
/**
 * A time still to go in a finding's text.
 *
 * @param ms the instant it counts to, ms since epoch
 */
export const ahead = (ms: number): string => `{ahead ${Math.round(ms)}}`;

/**
 * A finding's text as it is said at an instant; an age that would be negative is said as 0.
 *
 * @param text with its ages still open
 * @param now ms since epoch
 * @example saidAt('last contact {ago 0} ago', 7_200_000) // 'last contact 2 h ago'
 */
export const saidAt = (text: string, now: number): string =>
  text.replace(/\{(ago|ahead) (-?\d+)\}/g, (_, which: string, ms: string) =>
    formatAge(Math.max(0, which === 'ago' ? now - Number(ms) : Number(ms) - now) / 1000),
  );

/**
 * The findings that hold at an instant, heaviest first.
 *
 * @param now ms since epoch; a finding holds from its first instant on, and no more at its last
 */
export const holding = (findings: readonly Finding[], now: number): Finding[] =>
  findings.filter((f) => f.from <= now && now < f.until).sort(heaviestFirst);

const heaviestFirst = (a: Finding, b: Finding) =>
  b.weight - a.weight || a.code.localeCompare(b.code) || a.who.localeCompare(b.who);

/**
 * The state of each stone: displaced outranks missing, missing outranks sound.
 *
 * @param findings those that hold at one instant
 * @example cairnOf([{ stone: 'record', state: 'missing' }]).record // 'missing'
 */
export function cairnOf(
  findings: readonly Pick<Finding, 'stone' | 'state'>[],
): Record<StoneName, StoneState> {
  const stateOf = (stone: StoneName): StoneState => {
    const states = findings.filter((f) => f.stone === stone).map((f) => f.state);
    if (states.includes('displaced')) return 'displaced';
    return states.includes('missing') ? 'missing' : 'sound';
  };
  return Object.fromEntries(stoneNames.map((s) => [s, stateOf(s)])) as Record<StoneName, StoneState>;
}

/**
 * How urgent a stop is: the heaviest finding decides, then the sum.
 *
 * @param findings those that hold at one instant; weights 0–100
 * @example urgencyOf([{ weight: 40 }, { weight: 60 }]) // { heaviest: 60, total: 100 }
 */
export const urgencyOf = (
  findings: readonly Pick<Finding, 'weight'>[],
): { heaviest: number; total: number } => ({
  heaviest: Math.max(0, ...findings.map((f) => f.weight)),
  total: findings.reduce((s, f) => s + f.weight, 0),
});

/** Findings of one kind and text, as of channels of one logger with the same gap, said once of all of them. */
export function joinAlike(findings: readonly Finding[]): Finding[] {
  const alike = new Map<string, Finding[]>();
  for (const f of findings) {
    const key = JSON.stringify([f.code, f.text, f.next, f.from, f.until]);
    alike.set(key, [...(alike.get(key) ?? []), f]);
  }
  return [...alike.values()].map((all) =>
    all.length === 1
      ? all[0]!
      : {
          ...all[0]!,
          who: `${all.length} ${all[0]!.subject.kind === 'channel' ? 'channels' : 'sensors'}`,
          bring: [...new Set(all.flatMap((f) => f.bring))],
          channels: all.flatMap((f) => f.channels),
        },
  );
}
