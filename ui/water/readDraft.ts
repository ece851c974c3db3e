import type { WaterView } from '@/contract/water';
import type { LevelRead, LevelReading } from '@/core/water/levelReading';
import { elevationAt, type ReadKind } from '@/core/water/measuringPoint';
import { needsElevation } from '@/core/water/levelFault';
import { metresOf } from '@/core/water/metres';
import { numberOf } from '../shared/numberOf';

/** What is typed of a reading, before it is one. */
export interface ReadDraft {
  readonly kind: ReadKind;
  /** Typed fields by their names. */
  readonly typed: Readonly<Record<string, string>>;
  /** Ticked or chosen. */
  readonly chosen: Readonly<Record<string, string>>;
  /** Instants, ms; null for none. */
  readonly times: Readonly<Record<string, number | null>>;
}

export const emptyDraft = (kind: ReadKind): ReadDraft => ({
  kind,
  typed: {},
  chosen: {
    direction: 'down',
    changed: '',
    condition: 'sound',
    cork: 'line',
    hasMark: 'yes',
    shows: 'distance',
    inspected: '',
    nests: '',
    clear: 'yes',
    vented: 'yes',
    recharged: 'yes',
  },
  times: {},
});

/** The reading that a draft means at an instant; null while something of it is missing or no number. */
export function readOf({ kind, typed, chosen, times }: ReadDraft, at: number): LevelRead | null {
  const length = (name: string) => metresOf(typed[name] ?? '');
  const all = <T extends LevelRead>(read: T, ...numbers: number[]): T | null =>
    numbers.every(Number.isFinite) ? read : null;
  const reads = length('reads');
  switch (kind) {
    case 'tape':
      return all(
        { kind, direction: chosen.direction === 'up' ? 'up' : 'down', length: length('length') },
        length('length'),
      );
    case 'staff':
    case 'wire':
      return all({ kind, reads }, reads);
    case 'bar': {
      if (!chosen.changed) return all({ kind, reads, changed: null }, reads);
      const set = length('set');
      return all({ kind, reads, changed: { reads: set, at: times.set ?? at } }, reads, set);
    }
    case 'crest': {
      const mark = chosen.hasMark ? length('mark') : null;
      return all(
        {
          kind,
          mark,
          condition: chosen.condition as 'sound',
          cork: chosen.cork as 'line',
          peakAt: mark === null ? null : (times.peak ?? null),
          rechargedAt: chosen.recharged ? Math.max(at, times.recharged ?? at) : null,
        },
        mark ?? 0,
      );
    }
    case 'radar': {
      const tilt = numberOf(typed.tilt || '0');
      return all(
        {
          kind,
          shows: chosen.shows === 'level' ? 'level' : 'distance',
          reads,
          inspected: chosen.inspected
            ? { nests: Boolean(chosen.nests), tilt, clear: Boolean(chosen.clear) }
            : null,
        },
        reads,
        tilt,
      );
    }
    case 'pressure': {
      const [pressure, air, temperature, salinity] = [
        numberOf(typed.pressure ?? ''),
        chosen.vented ? null : numberOf(typed.air ?? ''),
        numberOf(typed.temperature ?? ''),
        numberOf(typed.salinity || '0'),
      ];
      return all({ kind, pressure, air, temperature, salinity }, pressure, air ?? 0, temperature, salinity);
    }
    case 'sum':
      return typed.sum?.trim() ? { kind, sum: typed.sum.trim() } : null;
  }
}

/** It with the elevation that holds for its time. */
export function readingFrom(
  view: Pick<WaterView, 'elevations'>,
  draft: ReadDraft,
  { id, pointId, at, accuracy }: { id: string; pointId: string | null; at: number; accuracy: number },
): LevelReading | null {
  const read = readOf(draft, at);
  if (!read) return null;
  const rests = pointId !== null && needsElevation(read);
  const e = rests ? elevationAt(view.elevations, pointId, at) : null;
  return {
    id,
    pointId,
    at,
    read,
    accuracy,
    elevation: e && { surveyId: e.surveyId, elevation: e.elevation, accuracy: e.accuracy },
  };
}
