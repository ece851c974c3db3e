import { roundTo } from '../quantity/format';
import { finite } from '../valid';

/** Another datum as it is seen from the station's own. */
export interface OtherDatum {
  readonly name: string;
  /** Elevation of the station's zero in it, m. */
  readonly zero: number;
}

/**
 * An elevation above the station's zero, in another datum.
 *
 * Source: common practice, no source; elevations of two datums differ by what lies between their zeros.
 *
 * @param elevation m above the station's zero; RangeError for one that is not finite
 * @param datum its zero −500…9000 m; RangeError for one that is not finite
 * @returns m in the other datum, to a tenth of a millimetre
 * @example toDatum(8.925, { name: 'Isles datum', zero: -1.25 }) // 7.675
 */
export const toDatum = (elevation: number, { zero }: OtherDatum): number =>
  roundTo(finite('elevation', elevation) + finite('zero', zero), 4);

/**
 * The way back from `toDatum`.
 *
 * @param elevation m in the other datum; RangeError for one that is not finite
 * @param datum as for `toDatum`
 * @returns m above the station's zero, to a tenth of a millimetre
 * @example fromDatum(7.675, { name: 'Isles datum', zero: -1.25 }) // 8.925
 */
export const fromDatum = (elevation: number, { zero }: OtherDatum): number =>
  roundTo(finite('elevation', elevation) - finite('zero', zero), 4);
