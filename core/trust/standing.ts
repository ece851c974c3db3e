import { decimalsOf, formatAge, formatDifference, formatValue } from '../quantity/format';
import { quantityOf, type QuantityCode } from '../quantity/quantity';
import { clockTolerance } from '../series/clock';

/** What is known of one channel without looking at the present. Instants in ms since epoch, values in the base unit. */
export interface StandingFacts {
  readonly quantity: QuantityCode;
  readonly enabled: boolean;
  readonly fedBy: 'logger' | 'file';
  readonly lastAt: number | null;
  readonly collectedAt: number | null;
  /** s */
  readonly storageInterval: number;
  readonly check: { readonly difference: number; readonly limit: number; readonly outcome: string } | null;
  /** When as-found differences, by their straight line, leave agreement; base units a day. */
  readonly drift: { readonly perDay: number; readonly reachesLimitAt: number } | null;
  readonly stuckSince: number | null;
  /** Within the window, which ends at the newest value. */
  readonly missing: { readonly n: number; readonly longestAt: number | null };
  readonly flagged: {
    readonly suspect: number;
    readonly failed: number;
    readonly at: number | null;
    readonly reason: string;
  };
  readonly twin: { readonly difference: number; readonly limit: number; readonly name: string } | null;
  readonly clock: { readonly difference: number; readonly uncertainty: number } | null;
}

/** One word for how far a channel can be trusted. */
export type StandingWord =
  | 'off'
  | 'silent'
  | 'stuck'
  | 'failing'
  | 'unlike twin'
  | 'clock off'
  | 'gaps'
  | 'suspect'
  | 'drifting'
  | 'overdue'
  | 'not collected'
  | 'unchecked'
  | 'empty'
  | 'good'
  | 'unused';

export interface Standing {
  readonly word: StandingWord;
  /** For the order of the list, 0–100: our own scale, the same as the Round's. */
  readonly weight: number;
  readonly reason: string;
  /** The place in the trace that matters, ms since epoch; null for the newest value. */
  readonly placeAt: number | null;
}

const day = 86_400_000;

const ok = (reason: string): Standing => ({ word: 'good', weight: 0, reason, placeAt: null });

/** The heaviest of the reasons not to trust a channel; what only ages is reckoned when the list is read. */
export function standingOf(f: StandingFacts): Standing {
  if (!f.enabled) return { word: 'unused', weight: 0, reason: 'switched off', placeAt: null };
  const q = quantityOf(f.quantity);
  const d = Math.max(q.decimals, decimalsOf(0.1));
  const all: Standing[] = [];
  const add = (word: StandingWord, weight: number, reason: string, placeAt: number | null = null) =>
    all.push({ word, weight, reason, placeAt });
  if (f.lastAt === null) return { word: 'empty', weight: 37, reason: 'nothing stored yet', placeAt: null };
  const silent = f.collectedAt === null ? 0 : (f.collectedAt - f.lastAt) / 1000;
  if (f.fedBy === 'logger' && silent > Math.max(3 * f.storageInterval, 3600))
    add('silent', 85, `stored nothing for ${formatAge(silent)} before the last collection`, f.lastAt);
  if (f.stuckSince !== null)
    add('stuck', 78, `has not moved for ${formatAge((f.lastAt - f.stuckSince) / 1000)}`, f.stuckSince);
  if (f.check && (f.check.outcome === 'left-outside' || f.check.outcome === 'does-not-converge'))
    add(
      'off',
      73,
      `${formatDifference(f.check.difference, d)} ${q.unit} at the last check, agreement ends at ±${formatValue(f.check.limit, d)}`,
    );
  if (f.twin && Math.abs(f.twin.difference) > f.twin.limit)
    add(
      'unlike twin',
      66,
      `${formatDifference(f.twin.difference, d)} ${q.unit} beside ${f.twin.name}, they should agree within ±${formatValue(f.twin.limit, d)}`,
    );
  if (f.flagged.failed > 0)
    add('failing', 62, `${f.flagged.failed} values failed: ${f.flagged.reason}`, f.flagged.at);
  if (f.fedBy === 'logger' && f.clock && Math.abs(f.clock.difference) - f.clock.uncertainty > clockTolerance)
    add(
      'clock off',
      60,
      `logger clock ${formatAge(f.clock.difference)} ${f.clock.difference > 0 ? 'fast' : 'slow'}`,
    );
  if (f.missing.n > 0) add('gaps', 50, `${f.missing.n} values missing`, f.missing.longestAt);
  if (f.flagged.suspect > 0)
    add('suspect', 46, `${f.flagged.suspect} values suspect: ${f.flagged.reason}`, f.flagged.at);
  if (f.drift && f.check && f.drift.reachesLimitAt < f.lastAt + 30 * day)
    add(
      'drifting',
      48,
      `${formatDifference(f.drift.perDay * 30, d)} ${q.unit} a month, ${f.drift.reachesLimitAt <= f.lastAt ? 'by that line already beyond' : `in ${formatAge((f.drift.reachesLimitAt - f.lastAt) / 1000)} beyond`} ±${formatValue(f.check.limit, d)}`,
    );
  if (f.fedBy === 'logger' && !f.check) add('unchecked', 44, 'never checked against a reference');
  return all.sort((a, b) => b.weight - a.weight)[0] ?? ok('within every limit that is set');
}

/** How the present weighs in: a check that is due, a collection long ago. Weights on the same scale. */
export const ageing = { overdue: 42, notCollected: 35 } as const;
