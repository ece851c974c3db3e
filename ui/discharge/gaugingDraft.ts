import { meanOfVertical, type Passage, type Vertical } from '@/core/discharge/gauging';
import type { GaugingSheet } from '@/core/discharge/gaugingSheet';
import { numberOf } from '../shared/numberOf';

/** Rows of cells as they were typed or pasted. */
const cellsOf = (text: string): string[][] =>
  text
    .split(/\r?\n/)
    .map((raw) =>
      raw
        .trim()
        .replaceAll('−', '-')
        .split(/[;\t]|\s+/)
        .filter((c) => c !== ''),
    )
    .filter((row) => row.length > 0);

/** Rows of numbers as they were typed or pasted; null where a row is none. */
export function numbersOf(text: string): number[][] | null {
  const rows = cellsOf(text).map((row) => row.map(numberOf));
  return rows.every((row) => row.every(Number.isFinite)) ? rows : null;
}

const isDepths = (n: number): n is Vertical['depths'] => [1, 2, 3, 5].includes(n);

/**
 * One vertical: across, depth and its velocity, which is either the mean, with or without in how many depths it was
 * measured, or what was measured from the surface down: 0.52/0.38.
 */
function verticalOf(cells: readonly string[]): Vertical | null {
  if (cells.length !== 3 && cells.length !== 4) return null;
  const velocities = cells[2]!.split('/').map(numberOf);
  const [across, depth] = [numberOf(cells[0]!), numberOf(cells[1]!)];
  const depths = cells.length === 4 ? numberOf(cells[3]!) : velocities.length;
  if (![across, depth, ...velocities].every(Number.isFinite) || !isDepths(depths)) return null;
  if (velocities.length === 1) return { across, depth, velocity: velocities[0]!, depths };
  if (velocities.length !== depths) return null;
  return { across, depth, velocity: meanOfVertical(velocities), depths, velocities };
}

/** Verticals, a line each; null where one is none. */
export function verticalsOf(text: string): Vertical[] | null {
  const found = cellsOf(text).map(verticalOf);
  return found.every((v) => v !== null) ? found : null;
}

/** A passage: time in s, concentration in g/m³. */
export const passageOf = (text: string): Passage[] | null => {
  const rows = numbersOf(text);
  return (
    rows &&
    (rows.every((r) => r.length === 2)
      ? rows.map(([at, concentration]) => ({ at: at!, concentration: concentration! }))
      : null)
  );
};

/** What is typed of a gauging. */
export interface GaugingDraft {
  readonly kind: GaugingSheet['kind'];
  readonly method: 'mid' | 'mean';
  /** Typed fields by their names. */
  readonly typed: Readonly<Record<string, string>>;
}

/** The sheet that a draft means; null while something of it is missing. */
export function sheetOf({ kind, method, typed }: GaugingDraft): GaugingSheet | null {
  const number = (name: string) => numberOf(typed[name] ?? '');
  const all = (sheet: GaugingSheet, ...numbers: number[]) => (numbers.every(Number.isFinite) ? sheet : null);
  const U = number('U') / 100;
  switch (kind) {
    case 'verticals': {
      const verticals = verticalsOf(typed.rows ?? '');
      return verticals && verticals.length > 0 ? { kind, method, verticals } : null;
    }
    case 'slug': {
      const passage = passageOf(typed.rows ?? '');
      const [mass, background] = [number('mass'), number('background')];
      return passage && all({ kind, mass, background, passage, U }, mass, background, U);
    }
    case 'rate': {
      const [rate, fed, plateau, background] = [
        number('rate'),
        number('fed'),
        number('plateau'),
        number('background'),
      ];
      return all({ kind, rate, fed, plateau, background, U }, rate, fed, plateau, background, U);
    }
    case 'stated': {
      const discharge = number('discharge');
      const by = (typed.by ?? '').trim();
      return by === '' ? null : all({ kind, discharge, U, by }, discharge, U);
    }
  }
}
