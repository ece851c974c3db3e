import { formatDifference, formatValue } from '../quantity/format';
import type { LevelRead } from './levelReading';

const metres = (value: number): string => `${formatValue(value, 3)} m`;

/** A reading in a few words, as it was read. */
export function readText(read: LevelRead): string {
  switch (read.kind) {
    case 'tape':
      return `tape-${read.direction} ${metres(read.length)}`;
    case 'staff':
      return `staff ${metres(read.reads)}`;
    case 'bar':
      return `check bar ${metres(read.reads)}${read.changed ? `, set to ${metres(read.changed.reads)}` : ''}`;
    case 'wire':
      return `water ${metres(read.reads)}`;
    case 'crest':
      return read.mark === null
        ? `no mark${read.rechargedAt === null ? '' : ', recharged'}`
        : `mark ${formatDifference(read.mark, 3)} m of the index`;
    case 'radar':
      return `${read.shows} ${metres(read.reads)}`;
    case 'pressure':
      return `${formatValue(read.pressure, 1)} hPa${read.air === null ? '' : ` under ${formatValue(read.air, 1)} hPa of air`}`;
    case 'sum':
      return read.sum;
  }
}
