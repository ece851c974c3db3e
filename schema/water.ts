import type { OtherDatum } from '@/core/water/datum';
import type { LevelRead } from '@/core/water/levelReading';
import type { LevellingSheet, SheetRow } from '@/core/water/levelling';
import { finite, name } from './pieces';
import { listOf, must, number, oneOf, orNull, shape, text, unionBy, yesNo } from './shape';

/** Levels and surveys, on the wire and as they are stored. */

/** Elevations anybody on earth may have, m. */
const elevation = finite((n) => n.min(-500).max(9000));
const length = finite((n) => n.min(-10_000).max(10_000));
/** ms since epoch */
const instant = finite((n) => n.min(-631_152_000_000).max(8e15));

export const otherDatum = shape<OtherDatum>({ name: must(name(60)), zero: must(elevation) });
export const otherDatums = listOf(otherDatum, (a) => a.max(12).unique('name'));

export const levelRead = unionBy<LevelRead>()('kind', {
  tape: { direction: must(oneOf<'down' | 'up'>()('down', 'up')), length: must(length) },
  staff: { reads: must(length) },
  bar: {
    reads: must(length),
    changed: must(
      orNull(
        shape<{ readonly reads: number; readonly at: number }>({ reads: must(length), at: must(instant) }),
      ),
    ),
  },
  wire: { reads: must(length) },
  crest: {
    mark: must(orNull(length)),
    condition: must(oneOf<'sound' | 'loose' | 'damaged'>()('sound', 'loose', 'damaged')),
    cork: must(oneOf<'line' | 'scattered' | 'none'>()('line', 'scattered', 'none')),
    peakAt: must(orNull(instant)),
    rechargedAt: must(orNull(instant)),
  },
  radar: {
    shows: must(oneOf<'distance' | 'level'>()('distance', 'level')),
    reads: must(length),
    inspected: must(
      orNull(
        shape<{ readonly nests: boolean; readonly tilt: number; readonly clear: boolean }>({
          nests: must(yesNo()),
          tilt: must(finite()),
          clear: must(yesNo()),
        }),
      ),
    ),
  },
  pressure: {
    pressure: must(finite()),
    air: must(orNull(finite())),
    temperature: must(finite()),
    salinity: must(finite()),
  },
  sum: { sum: must(text((s) => s.trim().min(1).max(200))) },
});

const sight = orNull(length);
const sheetRow = shape<SheetRow>({
  point: must(text((s) => s.trim().max(60).allow(''))),
  back: must(sight),
  between: must(sight),
  fore: must(sight),
});
export const levellingSheet = shape<LevellingSheet>({
  rows: must(listOf(sheetRow, (a) => a.max(200))),
  start: must(elevation),
  end: must(orNull(elevation)),
});

export interface StatedElevation {
  readonly pointId: string;
  /** m above the station's zero */
  readonly elevation: number;
  /** ± m */
  readonly accuracy: number;
}
export const statedElevation = shape<StatedElevation>({
  pointId: must(text((s) => s.uuid({ version: 'uuidv7' }))),
  elevation: must(elevation),
  accuracy: must(number((n) => n.greater(0).max(1))),
});
