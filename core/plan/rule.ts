import type { PlanContext } from './context';
import type { Found, Severity } from './finding';

/** A rule of the plan check as one object: what it looks at, its sum, where it comes from, how it judges. */
export interface PlanRule {
  readonly id: string;
  readonly title: string;
  readonly severity: Severity;
  /** Its sum as it is written down, or what it compares. */
  readonly sum: string;
  /** A published source, or "common practice, no source". */
  readonly source: string;
  readonly judge: (c: PlanContext) => readonly Found[];
}

/** Keeps the id a literal, so that the list of rules knows its names. */
export const rule = <const Id extends string>(
  r: PlanRule & { readonly id: Id },
): PlanRule & { readonly id: Id } => r;

export const practice = 'common practice, no source';

/** A found thing with what is usual left out. */
export const found = (
  text: string,
  remedy: string,
  at: { readonly devices?: readonly string[]; readonly terminals?: readonly string[]; readonly sum?: string },
): Found => ({ text, remedy, sum: at.sum ?? '', devices: at.devices ?? [], terminals: at.terminals ?? [] });

/** A number in a sum: three significant digits or more, no trailing zeros. */
export function num(value: number): string {
  const magnitude = Math.abs(value);
  const text =
    magnitude === 0 || !Number.isFinite(value)
      ? String(value)
      : magnitude >= 100
        ? value.toFixed(0)
        : magnitude >= 10
          ? value.toFixed(1)
          : magnitude >= 1
            ? value.toFixed(2)
            : value.toPrecision(2);
  const plain = text.includes('e') ? String(Number(text)) : text;
  return (plain.includes('.') ? plain.replace(/\.?0+$/, '') : plain).replace('-', '−');
}
