import type { Passage, Vertical } from '@/core/discharge/gauging';
import type { GaugingSheet } from '@/core/discharge/gaugingSheet';
import { numberOf } from '../shared/numberOf';

/** Rows of numbers as they were typed or pasted; null where a row is none. */
export function numbersOf(text: string): number[][] | null {
  const rows: number[][] = [];
  for (const raw of text.split(/\r?\n/)) {
    const line = raw.trim().replaceAll('−', '-');
    if (line === '') continue;
    const row = line
      .split(/[;\t]|\s+/)
      .filter((c) => c !== '')
      .map(numberOf);
    if (!row.every(Number.isFinite)) return null;
    rows.push(row);
  }
  return rows;
}

const depthsOf = (n: number | undefined): Vertical['depths'] => (n === 2 || n === 3 || n === 5 ? n : 1);

/** Verticals: across, depth, mean velocity and, where it is said, in how many depths. */
export const verticalsOf = (text: string): Vertical[] | null => {
  const rows = numbersOf(text);
  return (
    rows &&
    (rows.every((r) => r.length === 3 || r.length === 4)
      ? rows.map(([across, depth, velocity, depths]) => ({
          across: across!,
          depth: depth!,
          velocity: velocity!,
          depths: depthsOf(depths),
        }))
      : null)
  );
};

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
