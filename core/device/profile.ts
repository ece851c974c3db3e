import type { SerialSettings } from '../bus/serial';
import { quantityOf, type QuantityCode } from '../quantity/quantity';
import type { Signal } from '../wiring/landing';
import { accuracyText, toleranceAt, type Accuracy } from './accuracy';
import { conversionText, refuseConversion, type ConversionStep } from './conversion';
import { refuseField, wordsOf, type RegisterField } from './registerField';

/** One thing a sensor measures. Its key is what channels are mapped to; two outputs may carry one quantity. */
export interface SensorOutput {
  /** Within its profile: "humidity", "temperature20cm". */
  readonly key: string;
  readonly quantity: QuantityCode;
  /** What tells it from others of its quantity: "at 20 cm"; empty where nothing has to. */
  readonly label: string;
  readonly field: RegisterField;
  /** From the number in the registers to the base unit of the quantity. */
  readonly conversion: readonly ConversionStep[];
  /** What it measures, base unit. */
  readonly range: readonly [low: number, high: number];
  readonly accuracy: Accuracy;
  /** Smallest step the device sends, base unit. */
  readonly resolution: number;
  /** Time constant in its medium, s. */
  readonly response: number;
}

/**
 * What a logger is told of a channel's input: whom to ask, where the number lies and what to make of it. It
 * needs to know nothing else of the sensor.
 */
export interface ChannelInput {
  readonly busId: number;
  readonly field: RegisterField;
  readonly conversion: readonly ConversionStep[];
}

/** How a sensor is connected. */
export type Connection = {
  readonly kind: 'modbus-rtu';
  readonly serial: SerialSettings;
  /** How its ID is set, in words. */
  readonly idSetBy: string;
};

/**
 * A sensor model as data. Revisions are immutable: a sensor keeps the one it was installed with, so that
 * its past keeps its tolerances.
 */
export interface SensorProfile {
  readonly kind: 'sensor';
  readonly code: string;
  /** From 1 on. */
  readonly revision: number;
  readonly name: string;
  readonly connection: Connection;
  /** V at the sensor. */
  readonly supply: { readonly low: number; readonly high: number; readonly preferred: number };
  /** A, at the preferred voltage. */
  readonly current: number;
  /** s from power to a value that counts. */
  readonly warmUp: number;
  readonly leads: readonly { readonly colour: string; readonly signal: Signal }[];
  readonly outputs: readonly SensorOutput[];
  readonly cautions: readonly string[];
}

/** The profile of a sensor whose own cannot be read: nothing is known of it, and nothing is assumed. */
export const unknownProfile = (code: string, revision: number): SensorProfile => ({
  kind: 'sensor',
  code,
  revision,
  name: `unknown model ${code}`,
  connection: {
    kind: 'modbus-rtu',
    serial: { baud: 19200, dataBits: 8, parity: 'even', stopBits: 1 },
    idSetBy: '',
  },
  supply: { low: 0, high: 1000, preferred: 12 },
  current: 0,
  warmUp: 0,
  leads: [],
  outputs: [],
  cautions: [],
});

/**
 * An output by its key; null when the profile has none of that name.
 *
 * @param key as the mapping of a channel names it
 */
export const outputOf = (profile: SensorProfile, key: string): SensorOutput | null =>
  profile.outputs.find((o) => o.key === key) ?? null;

/**
 * How far an output may be off, ± in the base unit, at a value.
 *
 * @param at value, base unit; null where nothing is known: the middle of its range
 */
export const outputTolerance = ({ accuracy, range }: SensorOutput, at: number | null): number =>
  toleranceAt(accuracy, at ?? (range[0] + range[1]) / 2, range);

/** What it is called: "Humidity", "Water temperature 30 cm down". */
export const outputName = ({ quantity, label }: Pick<SensorOutput, 'quantity' | 'label'>): string =>
  [quantityOf(quantity).name, label].filter(Boolean).join(' ');

/** Its accuracy in words, "±0.3 °C". */
export const outputAccuracy = ({ accuracy, quantity }: SensorOutput): string =>
  accuracyText(accuracy, quantityOf(quantity).unit);

/** From register to unit in words, "register 0 ÷ 100 → °C". */
export const outputPath = ({ field, conversion, quantity }: SensorOutput): string =>
  `register ${field.address} ${conversionText(conversion)} → ${quantityOf(quantity).unit}`;

/** A stretch of registers that one request reads. */
export interface RegisterSpan {
  readonly fn: 3 | 4;
  readonly address: number;
  readonly count: number;
}
/** A request reads 125 registers at most. Source: MODBUS Application Protocol V1.1b3, 6.3 and 6.4. */
const mostRegisters = 125;

/**
 * The requests that read all outputs of a profile: registers that lie side by side are read together, 125 at
 * most; over a gap nothing is asked, since a device may refuse it. In order of function and address.
 */
export function registerSpans(outputs: readonly SensorOutput[]): RegisterSpan[] {
  const fields = outputs
    .map((o) => o.field)
    .sort((a, b) => a.fn - b.fn || a.address - b.address || wordsOf(b) - wordsOf(a));
  const spans: { fn: 3 | 4; address: number; count: number }[] = [];
  for (const field of fields) {
    const last = spans.at(-1);
    const end = field.address + wordsOf(field);
    const joins = last && last.fn === field.fn && field.address <= last.address + last.count;
    if (joins && end - last.address <= mostRegisters) last.count = Math.max(last.count, end - last.address);
    else spans.push({ fn: field.fn, address: field.address, count: wordsOf(field) });
  }
  return spans;
}

/**
 * What is wrong with a profile beyond its form: keys or leads that repeat, ranges that do not rise, a
 * conversion or a register that cannot be. Null for nothing; else the field, its value, and what is the matter.
 */
export function refuseProfile(
  profile: SensorProfile,
): { field: string; value: unknown; detail: string; remedy: string } | null {
  const refuse = (field: string, value: unknown, detail: string, remedy = 'Correct it.') => ({
    field,
    value,
    detail,
    remedy,
  });
  const { supply, leads, outputs } = profile;
  if (!(supply.low <= supply.preferred && supply.preferred <= supply.high))
    return refuse(
      'supply',
      supply.preferred,
      `The preferred ${supply.preferred} V lie outside ${supply.low} to ${supply.high} V.`,
    );
  const lead = repeated(leads.map((l) => l.colour));
  if (lead)
    return refuse('leads', lead, `Two leads are ${lead}.`, 'Tell them apart by a mark in their colour.');
  if (outputs.length === 0) return refuse('outputs', null, 'It measures nothing.', 'Add what it measures.');
  const key = repeated(outputs.map((o) => o.key));
  if (key) return refuse('outputs', key, `Two outputs have the key ${key}.`, 'Give each its own.');
  const alike = repeated(outputs.map((o) => `${quantityOf(o.quantity).name} ${o.label}`.trim()));
  if (alike)
    return refuse(
      'outputs',
      alike,
      `Two outputs are ${alike}.`,
      'Say by their labels what tells them apart.',
    );
  for (const [i, o] of outputs.entries()) {
    const at = `outputs.${i}`;
    if (!(o.range[0] < o.range[1]))
      return refuse(`${at}.range`, o.range[0], `The range ${o.range[0]} to ${o.range[1]} does not rise.`);
    const field = refuseField(o.field);
    if (field) return refuse(`${at}.field`, o.field.address, `${o.key}: ${field}.`);
    const conversion = refuseConversion(o.conversion);
    if (conversion) return refuse(`${at}.conversion`, null, `${o.key}: ${conversion}.`);
  }
  return null;
}

const repeated = (all: readonly string[]): string | undefined => all.find((v, i) => all.indexOf(v) !== i);
