import { findingKinds, holding, urgencyOf, type Finding, type StandingWord } from './finding';

/** How far one channel's values can be trusted: its heaviest finding, and nothing else. */
export interface Standing {
  readonly word: StandingWord;
  readonly weight: number;
  readonly reason: string;
  /** The place in the trace that matters, ms since epoch; null for the newest value. */
  readonly placeAt: number | null;
}

const good: Standing = { word: 'good', weight: 0, reason: 'within every limit that is set', placeAt: null };
const unused: Standing = { word: 'unused', weight: 0, reason: 'switched off', placeAt: null };

/**
 * The heaviest finding that bears on a channel at an instant; "good" where none does.
 *
 * @param findings all of its station
 * @param now ms since epoch
 * @example standingAt([], { id: 'c1', enabled: true }, 0).word // 'good'
 */
export function standingAt(
  findings: readonly Finding[],
  channel: { readonly id: string; readonly enabled: boolean },
  now: number,
): Standing {
  if (!channel.enabled) return unused;
  const worst = holding(findings, now).find(
    (f) => findingKinds[f.code].word !== null && f.channels.includes(channel.id),
  );
  if (!worst) return good;
  return {
    word: findingKinds[worst.code].word!,
    weight: worst.weight,
    reason: worst.text,
    placeAt: worst.placeAt,
  };
}

/** Something that holds from one instant until another, ms since epoch; the end is outside. */
export interface Stretch<T> {
  readonly from: number;
  readonly until: number;
  readonly is: T;
}

/** What is so at each instant, from what is so between two changes: findings begin and end, nothing else changes. */
function overTime<T>(findings: readonly Finding[], at: (now: number) => T): Stretch<T>[] {
  const edges = [...new Set(findings.flatMap((f) => [f.from, f.until]).filter(Number.isFinite))].sort(
    (a, b) => a - b,
  );
  const all = [-Infinity, ...edges].map((from, i): Stretch<T> => ({
    from,
    until: edges[i] ?? Infinity,
    is: at(from === -Infinity ? (edges[0] ?? 0) - 1 : from),
  }));
  // Where nothing changed over an edge, two stretches are one.
  return all.reduce<Stretch<T>[]>((joined, s) => {
    const last = joined.at(-1);
    if (last && JSON.stringify(last.is) === JSON.stringify(s.is))
      joined[joined.length - 1] = { ...last, until: s.until };
    else joined.push(s);
    return joined;
  }, []);
}

/** A channel's standing over all time, stretch by stretch. */
export const standingOverTime = (
  findings: readonly Finding[],
  channel: { readonly id: string; readonly enabled: boolean },
): Stretch<Standing>[] =>
  overTime(
    findings.filter((f) => f.channels.includes(channel.id)),
    (now) => standingAt(findings, channel, now),
  );

/** A station's urgency over all time, stretch by stretch. */
export const urgencyOverTime = (findings: readonly Finding[]): Stretch<ReturnType<typeof urgencyOf>>[] =>
  overTime(findings, (now) => urgencyOf(holding(findings, now)));
