import type { ConnectionKind } from '../device/connection';
import type { Ability, AbilityName, Terminal } from '../device/loggerProfile';
import type { Signal } from '../wiring/landing';

/** Which abilities a lead may land on, by what it is for; by the kind of connection where that decides. */
const usual: Readonly<Record<Signal, readonly AbilityName[]>> = {
  'supply+': ['supply'],
  'supply−': ['ground'],
  common: ['ground'],
  shield: ['shield', 'ground'],
  'data+': ['data+'],
  'data−': ['data−'],
  data: ['data'],
  clock: ['clock'],
  excitation: ['excitation'],
  'signal+': ['analog'],
  'signal−': ['analog', 'ground'],
  'sense+': ['analog'],
  'sense−': ['analog', 'ground'],
  pulse: ['pulse'],
  spare: [],
};

/**
 * Which abilities a terminal may offer a lead.
 *
 * @example abilitiesFor('sdi-12', 'data') // ['sdi-12']
 */
export function abilitiesFor(kind: ConnectionKind | 'board', signal: Signal): readonly AbilityName[] {
  if (signal === 'data' && kind === 'sdi-12') return ['sdi-12'];
  if (signal === 'data' && kind === 'daisy-chain') return ['chain'];
  if (signal === 'signal+' && kind === 'current') return ['current', 'analog'];
  // A second output of a voltage transmitter is an input of its own, never the other half of a pair.
  return usual[signal];
}

/** The ability by which a lead is at home on a terminal; null where it is not. */
export const homeOf = (
  terminal: Terminal,
  kind: ConnectionKind | 'board',
  signal: Signal,
): Ability | null => {
  for (const does of abilitiesFor(kind, signal)) {
    const found = terminal.abilities.find((a) => a.does === does);
    if (found) return found;
  }
  return null;
};

/** Abilities that several leads may use at once: they are joined there, or that is how a bus works. */
const shared: ReadonlySet<AbilityName> = new Set<AbilityName>([
  'supply',
  'ground',
  'shield',
  'excitation',
  'data+',
  'data−',
  'sdi-12',
  'chain',
  'data',
  'clock',
]);

/**
 * Whether several leads on one terminal make sense. A pin for data is a bus for I²C only.
 *
 * @param does what the lead uses there
 * @param kind how the sensor is connected
 * @example maySeveral('analog', 'voltage') // false
 */
export const maySeveral = (does: AbilityName, kind: ConnectionKind | 'board' | null): boolean =>
  shared.has(does) && (does !== 'data' || kind === 'i2c');
