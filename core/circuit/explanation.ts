import type { HopKind } from '../wiring/hop';
import type { Circuit, CircuitElement } from './circuit';
import type { Rig } from './rig';

/** What may be the matter, one thing at a time. */
export const faultKinds = [
  'none',
  'open',
  'short',
  'drifted',
  'wrong-value',
  'lead-high',
  'swapped',
  'leak',
  'channel',
  'excitation',
  'no-feed',
  'supply-low',
  'multiplier',
  'meter',
] as const;
export type FaultKind = (typeof faultKinds)[number];

/** One thing that explains what was read. */
export interface Explanation {
  /** The same for the same circuit: "open lead red". */
  readonly id: string;
  readonly kind: FaultKind;
  /** Elements it is about; of a leak the two nodes it joins. */
  readonly of: readonly string[];
  /** Where along the path it sits; null for none of them: nothing is wrong, or the meter is. */
  readonly hop: HopKind | null;
  /** How often it is the cause beside others. */
  readonly weight: number;
}

/**
 * How often each is the cause beside the others, before anything was measured: terminations and leads most, settings
 * and instruments least. Common practice, no source.
 */
const weights: Readonly<Record<FaultKind, number>> = {
  none: 0,
  open: 1.2,
  short: 0.8,
  drifted: 1.2,
  'wrong-value': 0.8,
  'lead-high': 1.2,
  swapped: 0.8,
  leak: 1,
  channel: 0.8,
  excitation: 0.8,
  'no-feed': 0.8,
  'supply-low': 0.8,
  multiplier: 0.8,
  meter: 0.8,
};
/** How often a circuit that somebody measures has nothing wrong. Our own choice, the one the sweep is judged by. */
export const soundShare = 0.1;

/** What is taken of an element's resistance or of a factor beforehand: ln, and how far it may be off. */
export interface Free {
  /** Element whose resistance it is. */
  readonly element: string;
  /** Of its resistance beside what the circuit says. */
  readonly ln: number;
  readonly sigma: number;
}

/** What the logger makes of the circuit, and the meter, under an explanation. */
export interface Model {
  readonly at: Rig['at'];
  readonly follows: Rig['follows'];
  readonly conversion: Rig['conversion'];
  /** Elements that are free beyond their tolerance. */
  readonly free: readonly Free[];
  /** A factor, ln, that is not 0: on what the input reads (excitation), on the supply, on the result (multiplier). */
  readonly factor: {
    readonly on: 'input' | 'supply' | 'result';
    readonly ln: number;
    readonly sigma: number;
  } | null;
  /** Nothing is fed at all. */
  readonly unfed: boolean;
  /** The transmitter of a loop lets nothing through. */
  readonly dead: boolean;
  /** The element is off by more than its tolerance. */
  readonly drifted: boolean;
  /** The meter is off by more than its limits. */
  readonly meterOff: boolean;
}

/** The rig with nothing wrong. */
export const soundModel = (rig: Rig): Model => ({
  at: rig.at,
  follows: rig.follows,
  conversion: rig.conversion,
  free: [],
  factor: null,
  unfed: false,
  dead: false,
  drifted: false,
  meterOff: false,
});

/** The same circuit with its elements changed, at every value. */
const changed = (
  rig: Rig,
  change: (elements: readonly CircuitElement[]) => readonly CircuitElement[],
): Rig['at'] => {
  return (value) => {
    const circuit = rig.at(value);
    return { ...circuit, elements: change(circuit.elements) };
  };
};

/** Id of the resistor that a fault adds to a circuit. */
export const added = 'added by the fault';
/** A resistor that a fault puts in series with one, at its far end. */
const inSeries = (elements: readonly CircuitElement[], id: string, ohms: number) =>
  elements.flatMap((e) =>
    e.id === id
      ? [
          { ...e, to: `${e.to} before` },
          { ...e, id: added, from: `${e.to} before`, ohms, tolerance: 0 },
        ]
      : [e],
  );

/** Ω of the circuit's sensing elements in the middle of its range: what a leak or a contact counts beside. */
function typicalOhms(rig: Rig): number {
  const { elements } = rig.at((rig.range[0] + rig.range[1]) / 2);
  const finite = elements.filter((e) => e.kind === 'sensing' && e.ohms < Infinity).map((e) => e.ohms);
  return finite.length > 0 ? Math.max(...finite) : 100;
}

/** Ω of a short, of a bad contact, of moisture: ln and how far around it they lie. Our own choice. */
const short = { ln: Math.log(0.5), sigma: 0.6 };
const badContact = (typical: number) => ({ ln: Math.log(Math.max(5, 0.02 * typical)), sigma: 1.5 });
const moisture = (typical: number) => ({
  ln: Math.log(Math.min(1e6, Math.max(3e3, 10 * typical))),
  sigma: 1.5,
});

/** What an explanation makes of a rig. */
export function modelOf(rig: Rig, { kind, of }: Explanation): Model {
  const model = soundModel(rig);
  const [first, second] = of as [string, string];
  const typical = typicalOhms(rig);
  switch (kind) {
    case 'none':
      return model;
    case 'open':
      if (first === 'transmitter') return { ...model, dead: true };
      return {
        ...model,
        at: changed(rig, (es) => es.map((e) => (e.id === first ? { ...e, ohms: Infinity } : e))),
      };
    case 'short': {
      const at = changed(rig, (es) => es.map((e) => (e.id === first ? { ...e, ohms: 1 } : e)));
      if (first !== 'transmitter') return { ...model, at, free: [{ element: first, ...short }] };
      return { ...model, at: joinedAcross(rig, 1), free: [{ element: added, ...short }] };
    }
    case 'drifted':
      return first === 'element'
        ? { ...model, drifted: true }
        : { ...model, free: [{ element: first, ln: 0, sigma: 0.1 }] };
    case 'wrong-value':
      return { ...model, free: [{ element: first, ln: 0, sigma: 0.7 }] };
    case 'lead-high':
      return {
        ...model,
        at: changed(rig, (es) => inSeries(es, first, 1)),
        free: [{ element: added, ...badContact(typical) }],
      };
    case 'swapped':
      return {
        ...model,
        dead: rig.at(rig.range[0]).reads?.kind === 'loop',
        at: changed(rig, (es) => {
          const link = (lead: string) =>
            es.find((e) => e.kind === 'link' && e.from === es.find((l) => l.id === lead)!.to)!;
          const [a, b] = [link(first), link(second)];
          return es.map((e) => (e === a ? { ...e, to: b.to } : e === b ? { ...e, to: a.to } : e));
        }),
      };
    case 'leak':
      return {
        ...model,
        at: changed(rig, (es) => [...es, leakBetween(first, second)]),
        free: [{ element: added, ...moisture(typical) }],
      };
    case 'channel': {
      const other = rig.otherwise.find((o) => o.says === first)!;
      return { ...model, at: other.at ?? rig.at, conversion: other.conversion ?? rig.conversion };
    }
    case 'excitation':
      return { ...model, factor: { on: 'input', ln: 0, sigma: 0.25 } };
    case 'no-feed':
      return { ...model, unfed: true };
    case 'supply-low':
      return { ...model, factor: { on: 'supply', ln: Math.log(0.6), sigma: 0.3 } };
    case 'multiplier':
      return { ...model, factor: { on: 'result', ln: 0, sigma: 0.3 } };
    case 'meter':
      return { ...model, meterOff: true };
  }
}

const leakBetween = (from: string, to: string): CircuitElement => ({
  id: added,
  kind: 'fixed',
  from,
  to,
  ohms: 1,
  tolerance: 0,
  hop: 'leads',
});

/** The two points of a transmitter joined, at every value. */
const joinedAcross =
  (rig: Rig, ohms: number): Rig['at'] =>
  (value) => {
    const circuit = rig.at(value);
    if (circuit.reads?.kind !== 'loop') return circuit;
    const [from, to] = circuit.reads.transmitter;
    return { ...circuit, elements: [...circuit.elements, { ...leakBetween(from, to), ohms }] };
  };

/**
 * Everything that may be the matter with a rig, with how often it is.
 *
 * @param rig what stands on the bench
 * @param hasReference whether an independent reference was or can be read: without one nothing tells an element that
 *   drifted from one that is right
 */
export function explanationsOf(rig: Rig, hasReference: boolean): Explanation[] {
  const circuit = rig.at((rig.range[0] + rig.range[1]) / 2);
  const found: Explanation[] = [];
  const add = (kind: FaultKind, of: readonly string[], hop: HopKind | null) =>
    found.push({ id: [kind, ...of].join(' '), kind, of, hop, weight: weights[kind] });
  add('none', [], null);
  const sensing = circuit.elements.filter((e) => e.kind === 'sensing');
  const { reads } = circuit;
  for (const e of circuit.elements) {
    if (e.kind === 'link' || e.id === 'supply') continue;
    add('open', [e.id], e.hop);
    if (e.kind === 'lead') add('lead-high', [e.id], 'leads');
    else add('short', [e.id], e.hop);
    if (e.kind === 'fixed') add('wrong-value', [e.id], e.hop);
    if (e.kind === 'sensing' && sensing.length > 1) add('drifted', [e.id], e.hop);
  }
  if (reads?.kind === 'loop') {
    add('open', ['transmitter'], 'element');
    add('short', ['transmitter'], 'element');
    add('supply-low', [], 'input');
    add('no-feed', [], 'input');
  }
  if (hasReference && reads?.kind !== 'contact') add('drifted', ['element'], 'element');
  for (const [a, b] of pairsOf(circuit.points.filter((p) => p.at === 'sensor').map((p) => p.node)))
    add('leak', [a, b], 'leads');
  if (reads) {
    for (const [a, b] of pairsOf(circuit.elements.filter((e) => e.kind === 'lead').map((e) => e.id)))
      if (swapMatters(circuit, a, b)) add('swapped', [a, b], 'input');
    for (const { says } of rig.otherwise) add('channel', [says], 'conversion');
    if (reads.kind === 'ohms' || reads.kind === 'ratio') {
      add('excitation', [], 'input');
      add('no-feed', [], 'input');
    }
    add('multiplier', [], 'conversion');
  }
  add('meter', [], null);
  const all = found.reduce((sum, e) => sum + e.weight, 0);
  return found.map((e) => ({
    ...e,
    weight: e.kind === 'none' ? soundShare : ((1 - soundShare) * e.weight) / all,
  }));
}

/** Resistance and contact do not ask which way round; two leads at one point of the sensor may carry either part. */
function swapMatters({ reads, elements }: Circuit, a: string, b: string): boolean {
  if (reads?.kind === 'contact') return false;
  const leads = elements.filter((e) => e.kind === 'lead');
  if (reads?.kind === 'ohms' && leads.length === 2) return false;
  const at = (id: string) => leads.find((e) => e.id === id)!.from;
  return at(a) !== at(b);
}

const pairsOf = <T>(all: readonly T[]): [T, T][] =>
  all.flatMap((a, i) => all.slice(i + 1).map((b): [T, T] => [a, b]));
