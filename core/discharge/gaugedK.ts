import { finite, notNegative } from '../valid';
import { areaBy, widthBy, type SectionTable } from './section';

/** A gauging with what the station measured meanwhile. */
export interface GaugedMoment {
  /** m³/s; against the stream negative. */
  readonly discharge: number;
  /** Expanded relative uncertainty of it, share. */
  readonly U: number;
  /** Mean over its time, m above the station's zero. */
  readonly level: number;
  /** How far the level went from its start to its end, m. */
  readonly levelChange: number;
  /** Mean over its time, m/s; against the stream negative. */
  readonly velocity: number;
  /** Expanded relative uncertainty of it, share. */
  readonly velocityU: number;
}

export interface GaugedK {
  readonly k: number;
  /** Expanded relative uncertainty of its own, share: gauging, velocity, level meanwhile. The section's is common to all. */
  readonly U: number;
  readonly area: number;
  readonly parts: { readonly gauging: number; readonly velocity: number; readonly level: number };
}

/** What keeps a gauging from saying anything of k. */
export type GaugedFault =
  | { readonly kind: 'dry' }
  | { readonly kind: 'no-velocity' }
  /** One of them says that it ran up, the other that it ran down. */
  | { readonly kind: 'against' };

/**
 * k by a gauging: discharge ÷ (surface velocity · wetted area), with what its time leaves open.
 *
 * Source: JCGM 100:2008: root sum of squares; a level that went by Δh counts as ± Δh/2, every value as likely (4.3.7).
 *
 * @param moment numbers finite, uncertainties ≥ 0; RangeError otherwise
 */
export function gaugedK(moment: GaugedMoment, section: SectionTable): GaugedK | GaugedFault {
  const { discharge, level, velocity } = moment;
  for (const [name, value] of Object.entries(moment)) finite(name, value);
  notNegative('U', moment.U);
  notNegative('velocityU', moment.velocityU);
  const area = areaBy(section, level);
  if (area <= 0) return { kind: 'dry' };
  if (velocity === 0) return { kind: 'no-velocity' };
  const k = discharge / (velocity * area);
  if (k <= 0) return { kind: 'against' };
  const parts = {
    gauging: moment.U,
    velocity: moment.velocityU,
    level: (widthBy(section, level) * Math.abs(moment.levelChange)) / Math.sqrt(3) / area,
  };
  return { k, area, parts, U: Math.hypot(parts.gauging, parts.velocity, parts.level) };
}

export const isGauged = (of: GaugedK | GaugedFault): of is GaugedK => 'k' in of;
