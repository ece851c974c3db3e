import type { Contradiction } from './crossCheck';
import type { Weighed } from './diagnose';
import type { CircuitEstimate } from './estimate';
import { added, type Explanation, type FaultKind } from './explanation';
import type { Measurement, Observation } from './measurement';
import type { Measured } from './session';

/** One object a kind: what is the matter, and what practitioners do next. */
export const faultWords: Readonly<
  Record<FaultKind, { readonly says: (of: readonly string[]) => string; readonly next: string }>
> = {
  none: {
    says: () => 'Nothing is wrong along this path',
    next: 'Leave it alone. Where the value is still not believed, check it against a reference.',
  },
  open: {
    says: ([what]) => `${nameOf(what!)} is open`,
    next: 'Look for the break: terminal, gland, splice. Re-terminate, or take a sensor known to be good.',
  },
  short: {
    says: ([what]) => `${nameOf(what!)} is short-circuited`,
    next: 'Look for bare strands that touch, pinched cable, metal beside the clips. Then take a sensor known to be good.',
  },
  drifted: {
    says: ([what]) =>
      what === 'element' ? 'The sensing element has drifted' : `${nameOf(what!)} has drifted`,
    next: 'Clean it and measure again; take one known to be good in its place; send it to a laboratory.',
  },
  'wrong-value': {
    says: ([what]) => `${nameOf(what!)} has another value than it should`,
    next: 'Read what is printed on it. Put the right one in, or correct the channel and mark the record.',
  },
  'lead-high': {
    says: ([what]) => `The resistance of ${nameOf(what!)} has risen`,
    next: 'Loosen, clean and re-terminate both of its ends; look at the gland and at splices; then measure again.',
  },
  swapped: {
    says: ([a, b]) => `${nameOf(a!)} and ${nameOf(b!)} are swapped`,
    next: 'Compare each colour with the wiring sheet, in good light, and put them right.',
  },
  leak: {
    says: ([a, b]) => `Moisture leaks between ${a!} and ${b!}`,
    next: 'Open and dry gland, splice and connector; look for a cut cable; renew what stays wet.',
  },
  channel: {
    says: ([what]) => `The channel is set ${what!}`,
    next: 'Read the channel back, stage the right type, write it, and mark the record until then.',
  },
  excitation: {
    says: () => 'The excitation is not what the channel reckons with',
    next: 'Measure it while the logger measures; compare with the channel; try another excitation terminal.',
  },
  'no-feed': {
    says: () => 'Nothing feeds the sensor',
    next: 'Look at the supply, its fuse and its terminal; is it on only while the logger measures?',
  },
  'supply-low': {
    says: () => 'The supply is too low under load',
    next: 'Measure it under load at both ends of the cable; thicker leads, or another supply.',
  },
  multiplier: {
    says: () => 'Multiplier or offset of the channel are wrong',
    next: 'Read the channel back and compare with the certificate; write the right one, and mark the record until then.',
  },
  meter: {
    says: () => 'The meter itself is off: its battery may be low',
    next: 'Change its battery, touch the probes together, and measure a resistor that is known.',
  },
};

const nameOf = (id: string): string =>
  id.startsWith('lead ')
    ? `the lead ${id.slice('lead '.length)}`
    : id === 'transmitter'
      ? 'the transmitter'
      : id.startsWith('the ') || /^arm \d/.test(id)
        ? id
        : `the ${id}`;

const first = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1);

/**
 * An explanation in words, with the size that explains most: "The resistance of the lead white has risen by 1.2 ± 0.1 Ω".
 *
 * @param weighed explanation and fit
 * @param nominal Ω of an element as the circuit has it, by id
 */
export function explanationText(
  { explanation, fit }: Pick<Weighed, 'explanation' | 'fit'>,
  nominal: (id: string) => number | null,
): string {
  const says = first(faultWords[explanation.kind].says(explanation.of));
  const of = (id: string) => fit.unknowns.find((u) => u.id === id);
  switch (explanation.kind) {
    case 'lead-high': {
      const risen = of(added);
      return risen ? `${says} by ${ohmsText(Math.exp(risen.value), Math.exp(risen.value) * risen.u)}` : says;
    }
    case 'leak': {
      const its = of(added);
      return its ? `${says} through ${ohmsText(Math.exp(its.value), Math.exp(its.value) * its.u)}` : says;
    }
    case 'wrong-value':
    case 'drifted': {
      const its = of(explanation.of[0]!);
      const ohms = nominal(explanation.of[0]!);
      if (!its || ohms === null) return says;
      const factor = Math.exp(its.value);
      return `${says}: ${ohmsText(ohms * factor, ohms * factor * its.u)} instead of ${ohmsText(ohms)}, ${signed(100 * (factor - 1))} %`;
    }
    case 'excitation':
    case 'multiplier':
    case 'supply-low': {
      const its = of('factor');
      return its ? `${says}: by ${signed(100 * (Math.exp(its.value) - 1))} %` : says;
    }
    default:
      return says;
  }
}
const signed = (v: number): string => `${v < 0 ? '−' : '+'}${Math.abs(v).toPrecision(2)}`;

/**
 * Ω as a meter shows them, with their uncertainty where there is one.
 *
 * @param ohms 0 or more
 * @param u standard uncertainty, Ω; left out for none
 * @example ohmsText(1080) // '1.08 kΩ'
 */
export function ohmsText(ohms: number, u?: number): string {
  if (ohms === Infinity) return 'open';
  const [by, unit] = ohms >= 999_500 ? [1e6, 'MΩ'] : ohms >= 999.5 ? [1e3, 'kΩ'] : [1, 'Ω'];
  const of = (v: number) => (v / by).toPrecision(ohms / by < 1 ? 2 : 4);
  const plain = (v: number) => String(Number(of(v)));
  if (u === undefined || !Number.isFinite(u)) return `${plain(ohms)} ${unit}`;
  // Two digits of what is doubtful, no more of the rest.
  const digits = Math.max(0, 1 - Math.floor(Math.log10((2 * u) / by)));
  return `${(ohms / by).toFixed(digits)} ± ${((2 * u) / by).toFixed(digits)} ${unit}`;
}

/** A measurement in words: "ohms between red lead end and white lead end". */
export function measurementText(m: Measurement): string {
  switch (m.kind) {
    case 'ohms':
      return `${m.from} – ${m.to}${m.closed === undefined ? '' : m.closed ? ', contact closed' : ', contact open'}`;
    case 'volts':
      return `volts ${m.from} – ${m.to}`;
    case 'milliamps':
      return `mA through ${m.through}`;
    case 'logger':
      return 'what the logger shows';
    case 'reference':
      return 'a reference beside the sensor';
    case 'counts':
      return 'counts of the contact, worked by hand';
  }
}

/**
 * What was read, as it stands in a sum.
 *
 * @param unit of the quantity, for what the logger and a reference show
 */
export function observationText({ of, shows }: Observation, unit: string): string {
  switch (of.kind) {
    case 'ohms':
      return shows === null ? 'over the range' : ohmsText(shows);
    case 'volts':
      return shows === null ? 'over the range' : `${Number(shows.toPrecision(4))} V`;
    case 'milliamps':
      return shows === null ? 'over the range' : `${Number(shows.toPrecision(4))} mA`;
    case 'logger':
    case 'reference':
      return shows === null ? 'no value' : `${Number(shows.toPrecision(5))} ${unit}`;
    case 'counts':
      return `${shows ?? 0} of ${of.worked}`;
  }
}

/** Where an explanation sits, in a word or two. */
export const placeText = ({ hop, kind }: Explanation): string =>
  kind === 'meter' ? 'the meter' : hop === null ? 'no hop' : hop === 'element' ? 'sensing element' : hop;

const nodeText = (node: string): string => node.replace(/ lead end$/, '').replace(/^terminal /, '');

/** A reading that the others contradict, and what to do about it. */
export const contradictionText = (
  { from, to, ohms }: { readonly from: string; readonly to: string; readonly ohms: number },
  by: Contradiction,
): string =>
  `${nodeText(from)} – ${nodeText(to)} reads ${ohmsText(ohms)}, by the other pairs it is ${ohmsText(by.ohms)} ± ${ohmsText(by.limit)}. Measure it again, then the others; if it stays so, something joins these points that the circuit does not have: moisture, a second path.`;

/** What a known resistor proves of the meter, on its position only. */
export const gainText = ({ range, gain, u }: CircuitEstimate['gains'][number]): string =>
  `On ${ohmsText(range.upTo)} the meter reads ${gain < 0 ? 'low' : 'high'} by ${Math.abs(100 * gain).toPrecision(2)} ± ${(196 * u).toPrecision(2)} %, by a resistor that is known; on other positions that says nothing.`;

/** A reading at a hop, as short as it can be: "red – white 104.3 Ω". */
export function readingWords(m: Measured, shows: number | null, unit: string): string {
  const what = m.through ?? `${nodeText(m.from ?? '')} – ${nodeText(m.to ?? '')}`;
  if (m.kind === 'reference') return `reference ${shows} ${unit}`;
  if (m.kind === 'counts') return `counts ${shows} of ${m.u}`;
  if (m.kind === 'ohms') return `${what} ${shows === null ? 'over every range' : ohmsText(shows)}`;
  return `${what} ${shows === null ? 'over the range' : `${Number(shows.toPrecision(4))} ${m.kind === 'milliamps' ? 'mA' : 'V'}`}`;
}
