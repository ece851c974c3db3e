import { refuseField, type RegisterField } from './registerField';

/** Where an output's number is found, beyond what the connection says: by register, lead, command or slot. */
export type OutputField =
  | ({ readonly kind: 'register' } & RegisterField)
  /** On this lead, by its colour: analog, pulse and clocked sensors. */
  | { readonly kind: 'lead'; readonly lead: string }
  /** The value at `index` (from 0) of what a measurement command gives: M, M1–M9, C, C1–C9. */
  | { readonly kind: 'sdi-12'; readonly command: string; readonly index: number }
  /** The value at `slot` (from 0) of what a chained sensor sends. */
  | { readonly kind: 'slot'; readonly slot: number }
  /** Two bytes from this register of an I²C device on, high byte first. */
  | { readonly kind: 'i2c'; readonly register: number; readonly signed: boolean };

const whole = (n: number, high: number) => Number.isInteger(n) && n >= 0 && n <= high;

/**
 * What is wrong with it; null for nothing.
 *
 * @param leads colours the sensor has
 * @example refuseOutputField({ kind: 'sdi-12', command: 'M12', index: 0 }, []) // 'command M12 is none of M, M1–M9, C, C1–C9'
 */
export function refuseOutputField(field: OutputField, leads: readonly string[]): string | null {
  switch (field.kind) {
    case 'register':
      return refuseField(field);
    case 'lead':
      return leads.includes(field.lead) ? null : `there is no lead ${field.lead}`;
    case 'sdi-12':
      if (!/^[MC][1-9]?$/.test(field.command))
        return `command ${field.command} is none of M, M1–M9, C, C1–C9`;
      return whole(field.index, 98) ? null : `value ${field.index} is outside 0–98`;
    case 'slot':
      return whole(field.slot, 63) ? null : `slot ${field.slot} is outside 0–63`;
    case 'i2c':
      return whole(field.register, 255) ? null : `register ${field.register} is outside 0–255`;
  }
}

/**
 * Where it lies in words: "register 4", "value 2 of M", "the green lead".
 *
 * @example outputFieldText({ kind: 'sdi-12', command: 'M', index: 1 }) // 'value 2 of M'
 */
export function outputFieldText(field: OutputField): string {
  switch (field.kind) {
    case 'register':
      return `register ${field.address}`;
    case 'lead':
      return `the ${field.lead} lead`;
    case 'sdi-12':
      return `value ${field.index + 1} of ${field.command}`;
    case 'slot':
      return `value ${field.slot + 1}`;
    case 'i2c':
      return `register ${field.register}`;
  }
}
