import { inSentence, quantityOf, type QuantityCode } from '../quantity/quantity';
import type { Signal } from '../wiring/landing';
import type { HandWay } from './adjustmentWay';
import { accuracyText, toleranceAt, type Accuracy } from './accuracy';
import { connectionKinds, refuseConnection, type Connection, type ConnectionKind } from './connection';
import { conversionText, refuseConversion, type ConversionStep } from './conversion';
import { outputFieldText, refuseOutputField, type OutputField } from './outputField';
import type { ReplaceablePart } from './part';
import { wordsOf, type RegisterField } from './registerField';

/** One thing a sensor measures. Its key is what channels are mapped to; two outputs may carry one quantity. */
export interface SensorOutput {
  /** Within its profile: "humidity", "temperature20cm". */
  readonly key: string;
  readonly quantity: QuantityCode;
  /** What tells it from others of its quantity: "at 20 cm"; empty where nothing has to. */
  readonly label: string;
  readonly field: OutputField;
  /** From what the input hands over (a register's number, V, mA, a ratio, Ω, pulses) to the base unit. */
  readonly conversion: readonly ConversionStep[];
  /** What it measures, base unit. */
  readonly range: readonly [low: number, high: number];
  readonly accuracy: Accuracy;
  /** Smallest step the device sends, base unit. */
  readonly resolution: number;
  /** Time constant in its medium, s. */
  readonly response: number;
  /** s from a change of its medium until it answers at all: a membrane, a long sleeve; left out where that is no time. */
  readonly deadTime?: number;
  /** What is added to the value it reads dry, base unit: from there on it counts as wet. Left out where it does not matter. */
  readonly wetMargin?: number;
  /** How the device itself takes an adjustment of it, entered by hand there; left out where its logger alone does. */
  readonly takes?: readonly HandWay[];
}

/** What stands near a sensor and disturbs it. */
export const disturbances = ['motor', 'inverter', 'high voltage', 'heater', 'wall', 'inlet', 'tree'] as const;
export type Disturbance = (typeof disturbances)[number];

/** Where a sensor wants to be: rules of a plan compare it with where it is to be. */
export interface Placing {
  /** m above ground or floor, below it negative; null where any will do. */
  readonly height: readonly [low: number, high: number] | null;
  /** m it keeps from what disturbs it. */
  readonly clearOf: readonly { readonly of: Disturbance; readonly metres: number }[];
  /** ° from the vertical, at most; null where it does not matter. */
  readonly tilt: number | null;
}

/** Where leads of other sensors can end in this one: a spare pair, screws in a funnel. */
export interface HostPlace {
  readonly label: string;
  /** Which kinds of connection may end here. */
  readonly takes: readonly ConnectionKind[];
  /** Sensors it takes. */
  readonly most: number;
  /** Screws by their marks, and the spare lead each is joined to. */
  readonly screws: readonly { readonly mark: string; readonly lead: string }[];
}

/** A plug at the end of a cable. */
export interface Plug {
  readonly type: string;
  /** Whether its form keeps it out of any other socket. */
  readonly keyed: boolean;
  readonly pins: readonly { readonly pin: string; readonly lead: string }[];
}

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
  /** Its plug, where its cable ends in one. */
  readonly plug: Plug | null;
  readonly outputs: readonly SensorOutput[];
  /** A part of it that is replaced on site, set over its serial line; left out for none. */
  readonly part?: ReplaceablePart;
  readonly placing: Placing;
  /** Whether it may be put into water, whatever it measures; left out where nobody says so. */
  readonly immersible?: boolean;
  /** Where it says how far it is tilted itself; left out where it does not, or has no registers. */
  readonly ownTilt?: { readonly fn: 3 | 4; readonly address: number; readonly perDegree: number };
  readonly hosts: readonly HostPlace[];
  /** Label of the kind of host place its leads have to end in; null where it needs none. */
  readonly needsHost: string | null;
  /** Quantities that must not be measured by another sensor on the same logger while this one is there. */
  readonly excludes: readonly QuantityCode[];
  /** What is done when it is mounted, in order; ticked on site. */
  readonly mounting: readonly string[];
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
    unitLoad: 1,
    termination: 'none',
  },
  supply: { low: 0, high: 1000, preferred: 12 },
  current: 0,
  warmUp: 0,
  leads: [],
  plug: null,
  outputs: [],
  placing: { height: null, clearOf: [], tilt: null },
  hosts: [],
  needsHost: null,
  excludes: [],
  mounting: [],
  cautions: [],
});

/**
 * An output by its key; null when the profile has none of that name.
 *
 * @param key as the mapping of a channel names it
 */
export const outputOf = ({ outputs }: Pick<SensorProfile, 'outputs'>, key: string): SensorOutput | null =>
  outputs.find((o) => o.key === key) ?? null;

/**
 * How far an output may be off, ± in the base unit, at a value.
 *
 * @param at value, base unit; null where nothing is known: the middle of its range
 */
export const outputTolerance = ({ accuracy, range }: SensorOutput, at: number | null): number =>
  toleranceAt(accuracy, at ?? (range[0] + range[1]) / 2, range);

/** Leads that have to end somewhere: all but spare ones. */
export const neededLeads = ({ leads }: Pick<SensorProfile, 'leads'>) =>
  leads.filter((l) => l.signal !== 'spare');

/** Whether it is fed at all: a thermistor or a contact has no lead for a supply. */
export const isFed = ({ leads }: Pick<SensorProfile, 'leads'>): boolean =>
  leads.some((l) => l.signal === 'supply+');

/** What it is called: "Humidity", "Water temperature 30 cm down". */
export const outputName = ({ quantity, label }: Pick<SensorOutput, 'quantity' | 'label'>): string =>
  [quantityOf(quantity).name, label].filter(Boolean).join(' ');

/** The same within a sentence: "humidity", "pH". */
export const outputInSentence = ({ quantity, label }: Pick<SensorOutput, 'quantity' | 'label'>): string =>
  [inSentence(quantity), label].filter(Boolean).join(' ');

/** Its accuracy in words, "±0.3 °C". */
export const outputAccuracy = ({ accuracy, quantity }: SensorOutput): string =>
  accuracyText(accuracy, quantityOf(quantity).unit);

/** From where it lies to its unit in words, "register 0 ÷ 100 → °C". */
export const outputPath = ({ field, conversion, quantity }: SensorOutput): string =>
  `${outputFieldText(field)} ${conversionText(conversion)} → ${quantityOf(quantity).unit}`;

/** The register an output lies in; null where it lies elsewhere. */
export const registerOf = ({ field }: Pick<SensorOutput, 'field'>): RegisterField | null => {
  if (field.kind !== 'register') return null;
  const { fn, address, type, wordOrder, missing } = field;
  return { fn, address, type, wordOrder, missing };
};

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
    .flatMap((o) => (o.field.kind === 'register' ? [o.field] : []))
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

/** Why a profile cannot be: the field, its value, what is the matter and what to do. */
export interface Refusal {
  readonly field: string;
  readonly value: unknown;
  readonly detail: string;
  readonly remedy: string;
}

/**
 * What is wrong with a profile beyond its form: keys or leads that repeat, ranges that do not rise, a
 * conversion or a register that cannot be. Null for nothing; else the field, its value, and what is the matter.
 */
export function refuseProfile(profile: SensorProfile): Refusal | null {
  const refuse = (field: string, value: unknown, detail: string, remedy = 'Correct it.') => ({
    field,
    value,
    detail,
    remedy,
  });
  const { connection, supply, leads, plug, outputs, placing } = profile;
  const unfit = refuseConnection(connection);
  if (unfit)
    return refuse('connection', connection.kind, `${connectionKinds[connection.kind].name}: ${unfit}.`);
  if (!(supply.low <= supply.preferred && supply.preferred <= supply.high))
    return refuse(
      'supply',
      supply.preferred,
      `The preferred ${supply.preferred} V lie outside ${supply.low} to ${supply.high} V.`,
    );
  const lead = repeated(leads.map((l) => l.colour));
  if (lead)
    return refuse('leads', lead, `Two leads are ${lead}.`, 'Tell them apart by a mark in their colour.');
  const pin =
    plug &&
    (repeated(plug.pins.map((p) => p.pin)) ??
      plug.pins.find((p) => !leads.some((l) => l.colour === p.lead))?.pin);
  if (pin) return refuse('plug', pin, `Pin ${pin} is there twice, or carries a lead it does not have.`);
  for (const { label, screws } of profile.hosts) {
    const screw =
      repeated(screws.map((x) => x.mark)) ??
      screws.find((x) => !leads.some((l) => l.colour === x.lead && l.signal === 'spare'))?.mark;
    if (screw)
      return refuse('hosts', screw, `${label}: screw ${screw} is there twice, or joined to no spare lead.`);
  }
  if (placing.height && !(placing.height[0] <= placing.height[1]))
    return refuse('placing.height', placing.height[0], 'The height does not rise.');
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
  const { part } = profile;
  const borne = part?.bears.find((k) => !outputs.some((o) => o.key === k));
  if (borne !== undefined) return refuse('part.bears', borne, `It has no output ${borne}.`);
  if (part && connection.kind !== 'modbus-rtu')
    return refuse('part', part.name, 'Its coefficients lie in registers, and it has none.');
  for (const [i, o] of outputs.entries()) {
    const at = `outputs.${i}`;
    if (!(o.range[0] < o.range[1]))
      return refuse(`${at}.range`, o.range[0], `The range ${o.range[0]} to ${o.range[1]} does not rise.`);
    if (!fieldsOf[connection.kind].includes(o.field.kind))
      return refuse(
        `${at}.field`,
        o.field.kind,
        `${o.key}: with ${connectionKinds[connection.kind].name} an output lies in ${fieldsOf[connection.kind].join(' or ')}, not in ${o.field.kind}.`,
      );
    const field = refuseOutputField(
      o.field,
      leads.map((l) => l.colour),
    );
    if (field) return refuse(`${at}.field`, outputFieldText(o.field), `${o.key}: ${field}.`);
    const conversion = refuseConversion(o.conversion);
    if (conversion) return refuse(`${at}.conversion`, null, `${o.key}: ${conversion}.`);
  }
  return null;
}

/** Where outputs lie, by the kind of connection. */
const fieldsOf: Readonly<Record<ConnectionKind, readonly OutputField['kind'][]>> = {
  'modbus-rtu': ['register'],
  'sdi-12': ['sdi-12'],
  'daisy-chain': ['slot'],
  i2c: ['i2c'],
  clocked: ['slot'],
  voltage: ['lead'],
  current: ['lead'],
  'half-bridge': ['lead'],
  'full-bridge': ['lead'],
  prt: ['lead'],
  thermistor: ['lead'],
  potentiometer: ['lead'],
  pulse: ['lead'],
};

/** The first that is there twice. */
export const repeated = (all: readonly string[]): string | undefined =>
  all.find((v, i) => all.indexOf(v) !== i);
