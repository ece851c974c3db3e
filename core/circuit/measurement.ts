import type { MeterRange } from './meter';

/** What can be measured or read. */
export type Measurement =
  /** Between two points with the leads off; `closed` for a contact that is held so. */
  | {
      readonly kind: 'ohms';
      readonly from: string;
      readonly to: string;
      readonly range: MeterRange;
      readonly closed?: boolean;
    }
  /** Between two points with the leads on and fed. */
  | { readonly kind: 'volts'; readonly from: string; readonly to: string; readonly range: MeterRange }
  /** Through an element that is opened for it, fed. */
  | { readonly kind: 'milliamps'; readonly through: string; readonly range: MeterRange }
  /** What the logger shows, base unit; u of its input and of how the quantity moved until it was measured. */
  | { readonly kind: 'logger'; readonly u: number }
  /** What an independent reference says, base unit. */
  | { readonly kind: 'reference'; readonly u: number }
  /** How often the logger counts a contact that is worked by hand so many times. */
  | { readonly kind: 'counts'; readonly worked: number };

/** What stays of the contact of two clips after their zero was subtracted, standard uncertainty in Ω. Common practice, no source. */
export const clipsLeave = 0.05;

/** What was read: null over the range, or where the logger shows no value. */
export interface Observation {
  readonly of: Measurement;
  readonly shows: number | null;
}
