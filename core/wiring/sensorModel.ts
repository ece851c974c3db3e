import type { RegisterField } from '../bus/register';
import type { SerialSettings } from '../bus/serial';
import type { QuantityCode } from '../quantity/quantity';

/** What a lead or terminal is for. Polarity is written + and −, never A and B: makers disagree. */
export type Signal = 'supply+' | 'supply−' | 'data+' | 'data−' | 'common' | 'shield';

export interface ModelQuantity extends RegisterField {
  readonly quantity: QuantityCode;
  /** Maker's tolerance ±, base unit. */
  readonly tolerance: number;
  /** Smallest step the device sends, base unit. */
  readonly resolution: number;
  /** Time constant in its medium, s. */
  readonly response: number;
}

/** One transmitter model of the catalogue. All models are invented. */
export interface SensorModel {
  readonly code: string;
  readonly name: string;
  readonly protocol: 'modbus-rtu';
  readonly serial: SerialSettings;
  /** V at the sensor. */
  readonly supply: { readonly low: number; readonly high: number; readonly preferred: number };
  /** A, at the preferred voltage. */
  readonly current: number;
  readonly leads: readonly { readonly colour: string; readonly signal: Signal }[];
  readonly idSetBy: string;
  /** All in input registers, read with function 04. */
  readonly quantities: readonly ModelQuantity[];
  readonly caution?: string;
}

/** The register span that holds all quantities of a model: one request reads them together. */
export function registerSpan(model: SensorModel): { address: number; count: number } {
  const addresses = model.quantities.map((q) => q.address);
  const address = Math.min(...addresses);
  return { address, count: Math.max(...addresses) - address + 1 };
}
