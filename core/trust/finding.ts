/** The five stones of a station's cairn, bottom to top: each hop group stands on the one below. */
export const stoneNames = ['power and link', 'wiring', 'settings', 'reference', 'record'] as const;
export type StoneName = (typeof stoneNames)[number];

/** sound: done and holding. missing: never done. displaced: done, and now failing or overdue. */
export type StoneState = 'sound' | 'missing' | 'displaced';

/** One reason why a station needs someone. */
export interface Finding {
  readonly stone: StoneName;
  readonly state: Exclude<StoneState, 'sound'>;
  readonly code: string;
  /** How much it matters, 0–100; see `weights`. */
  readonly weight: number;
  readonly channelId: string | null;
  /** What is the matter, with its numbers. */
  readonly text: string;
  /** What to do next. */
  readonly next: string;
  /** What to bring. */
  readonly bring: readonly string[];
}

/**
 * How much each finding matters for the order of a round: our own scale, common practice behind it.
 * What may be acting on the world right now outweighs what spoils the record, which outweighs what
 * is only due.
 */
export const weights = {
  'action-unknown': 95,
  'link-failed': 90,
  'record-stopped': 85,
  'supply-outside': 80,
  stuck: 78,
  'talk-failed': 75,
  'beyond-tolerance': 72,
  'does-not-converge': 74,
  'read-back-differs': 70,
  'clock-off': 60,
  'check-open': 45,
  'never-checked': 44,
  gap: 50,
  'check-overdue': 42,
  'never-written': 40,
  staged: 38,
  'never-contacted': 36,
  'contact-old': 35,
  'never-talked': 34,
  drifting: 33,
  'leads-unrecorded': 20,
  'never-collected': 37,
} as const;

export type FindingCode = keyof typeof weights;

/** The state of each stone: displaced outranks missing, missing outranks sound. */
export function cairnOf(findings: readonly Finding[]): Record<StoneName, StoneState> {
  const stateOf = (stone: StoneName): StoneState => {
    const states = findings.filter((f) => f.stone === stone).map((f) => f.state);
    if (states.includes('displaced')) return 'displaced';
    return states.includes('missing') ? 'missing' : 'sound';
  };
  return Object.fromEntries(stoneNames.map((s) => [s, stateOf(s)])) as Record<StoneName, StoneState>;
}

/** Sorts stops worst first: the heaviest finding decides, then the sum, then the name. */
export function byUrgency(
  a: { readonly findings: readonly Finding[]; readonly name: string },
  b: { readonly findings: readonly Finding[]; readonly name: string },
): number {
  const heaviest = (f: readonly Finding[]) => Math.max(0, ...f.map((x) => x.weight));
  const total = (f: readonly Finding[]) => f.reduce((s, x) => s + x.weight, 0);
  return (
    heaviest(b.findings) - heaviest(a.findings) ||
    total(b.findings) - total(a.findings) ||
    a.name.localeCompare(b.name)
  );
}
