import { refuseConversion, type ConversionStep } from '../device/conversion';
import { passedOn, conversionSum } from '../device/quickSum';
import {
  networkOfCircuit,
  refuseCircuit,
  type Circuit,
  type CircuitElement,
  type CircuitFault,
} from './circuit';
import { ohmsTyped } from './meter';
import { dividedBetween, drive, resistanceBetween, sharesOf, type NodePair } from './network';
import type { MeasurementPlan, PlannedCircuit } from './plan';

/** A line of a circuit of one's own, as it is typed. */
export interface OwnRow {
  readonly id: string;
  readonly kind: CircuitElement['kind'];
  readonly from: string;
  readonly to: string;
  /** Ω with a prefix: "100k"; of a link "open" or "closed". */
  readonly ohms: string;
  /** ± %, empty where nobody states one. */
  readonly tolerance: string;
  /** Of a sensing one Ω at both ends of its range; else empty. */
  readonly low: string;
  readonly high: string;
}

/** A circuit that somebody drew. */
export interface OwnCircuit {
  readonly name: string;
  readonly rows: readonly OwnRow[];
  /** Nodes no clip reaches. */
  readonly hidden: readonly string[];
  /** Between which nodes a voltage is put, and between which it is read; null for none. */
  readonly excitation: NodePair | null;
  readonly output: NodePair | null;
  /** What its sensing element says: its Ω become a quantity; null where nobody said. */
  readonly says: {
    readonly element: string;
    readonly unit: string;
    readonly conversion: ConversionStep;
  } | null;
}

/** The most lines that are drawn: more is no sensor's. */
export const mostOwnRows = 24;

/** A line to be filled in, with a name that is free. */
export const emptyRow = (rows: readonly OwnRow[]): OwnRow => {
  const taken = new Set(rows.map((r) => r.id));
  let n = 1;
  while (taken.has(`R${n}`)) n++;
  return { id: `R${n}`, kind: 'fixed', from: '', to: '', ohms: '', tolerance: '', low: '', high: '' };
};

/** The nodes of a circuit in the order in which they were named. */
export const nodesOf = ({ rows }: Pick<OwnCircuit, 'rows'>): string[] => [
  ...new Set(rows.flatMap((r) => [r.from.trim(), r.to.trim()]).filter((n) => n !== '')),
];

/**
 * Reads a circuit of one's own.
 *
 * @param own as it was typed
 * @returns the circuit at its value and at both ends of the range, or what is wrong with it in words
 */
export function readOwn(own: OwnCircuit): PlannedCircuit | { readonly faults: readonly CircuitFault[] } {
  const faults = typedFaults(own);
  if (faults.length > 0) return { faults };
  const nodes = nodesOf(own);
  const circuit = (at: (row: OwnRow) => string): Circuit => ({
    elements: linksFromLeads(own.rows.map((row) => elementOf(row, at(row)))),
    points: nodes
      .filter((n) => !own.hidden.includes(n))
      .map((node) => ({ node, name: node, colour: null, at: 'terminal' })),
    reads: own.excitation &&
      own.output && {
        kind: 'ratio',
        drive: own.excitation,
        taps: [
          { node: own.output[0], weight: 1 },
          { node: own.output[1], weight: -1 },
        ],
        volts: 1,
      },
  });
  const now = circuit((r) => r.ohms);
  const wrong = refuseCircuit(now);
  if (wrong.length > 0) return { faults: wrong };
  return {
    now,
    ends: [
      circuit((r) => (r.kind === 'sensing' && r.low.trim() ? r.low : r.ohms)),
      circuit((r) => (r.kind === 'sensing' && r.high.trim() ? r.high : r.ohms)),
    ],
  };
}

const linkOhms: Readonly<Record<string, number>> = { closed: 0, open: Infinity };

function elementOf(row: OwnRow, ohms: string): CircuitElement {
  return {
    id: row.id.trim(),
    kind: row.kind,
    from: row.from.trim(),
    to: row.to.trim(),
    ohms: row.kind === 'link' ? (linkOhms[ohms.trim()] ?? Number.NaN) : ohmsTyped(ohms),
    tolerance: percent(row.tolerance) / 100,
    hop: row.kind === 'lead' ? 'leads' : row.kind === 'link' ? 'input' : 'element',
  };
}

const percent = (text: string): number =>
  text.trim() === '' ? 0 : Number(text.trim().replace(',', '.').replace(/\s*%$/, ''));

/** A link that ends at a lead begins there: a drawing runs from the sensor to the logger. */
function linksFromLeads(elements: readonly CircuitElement[]): CircuitElement[] {
  const ends = new Set(elements.filter((e) => e.kind === 'lead').map((e) => e.to));
  return elements.map((e) =>
    e.kind === 'link' && ends.has(e.to) && !ends.has(e.from) ? { ...e, from: e.to, to: e.from } : e,
  );
}

/** What was typed that is no number, and what is empty. */
function typedFaults({ rows, excitation, output, hidden, says }: OwnCircuit): CircuitFault[] {
  const faults: CircuitFault[] = [];
  const fault = (field: string, says: string, remedy: string) => faults.push({ field, says, remedy });
  if (rows.length === 0) fault('the table', 'is empty', 'Add an element, or begin with a template.');
  if (rows.length > mostOwnRows)
    fault('the table', `has ${rows.length} lines`, `Up to ${mostOwnRows} are drawn: leave out the rest.`);
  for (const [i, row] of rows.entries()) {
    const name = row.id.trim() || `line ${i + 1}`;
    if (row.id.trim() === '') fault(name, 'has no name', 'Give it one: R1, lead red.');
    if (row.from.trim() === '' || row.to.trim() === '')
      fault(name, 'has a loose end', 'Name the points it begins and ends at.');
    const number = (what: string, text: string) => {
      if (text.trim() === '') fault(name, `${what} is missing`, 'Type it as it is printed: 350, 8.72 k, 1M.');
      else if (Number.isNaN(ohmsTyped(text)))
        fault(
          name,
          `${what} “${text.trim()}” is no resistance`,
          'Type it as it is printed: 350, 8.72 k, 1M.',
        );
      else if (!(ohmsTyped(text) > 0))
        fault(
          name,
          `${what} ${text.trim()} Ω is no resistor`,
          'A resistor is above 0 Ω; where two points are one, use a closed link.',
        );
    };
    if (row.kind === 'link') {
      if (!Object.hasOwn(linkOhms, row.ohms.trim()))
        fault(name, `“${row.ohms.trim()}” is no state of a link`, 'A link is open or closed.');
    } else number('its resistance', row.ohms);
    if (row.kind === 'sensing') {
      if (row.low.trim()) number('the low end of its range', row.low);
      if (row.high.trim()) number('the high end of its range', row.high);
    }
    const share = percent(row.tolerance);
    if (!(share >= 0 && share < 100))
      fault(name, `a tolerance of “${row.tolerance.trim()}” % cannot be`, 'Between 0 and 100 %, or empty.');
  }
  if (says) {
    const wrong = refuseConversion([says.conversion]);
    if (wrong)
      fault(says.element, `cannot be converted: ${wrong}`, 'Put the numbers of its conversion right.');
    if (!rows.some((r) => r.id.trim() === says.element && r.kind === 'sensing'))
      fault(says.element, 'is no sensing element', 'Choose which element the conversion is of.');
  }
  const nodes = new Set(nodesOf({ rows }));
  for (const [what, pair] of [
    ['excitation', excitation],
    ['output', output],
  ] as const) {
    if (!pair) continue;
    const gone = pair.find((n) => !nodes.has(n));
    if (gone !== undefined) fault(what, `stands at ${gone}, which no element has`, 'Choose another point.');
    else if (pair[0] === pair[1])
      fault(what, `begins and ends at ${pair[0]}`, 'Choose two different points.');
  }
  if (nodes.size > 0 && [...nodes].filter((n) => !hidden.includes(n)).length < 2)
    fault('points', 'a meter needs two points', 'Let a clip reach two points.');
  return faults;
}

/**
 * What the meter's limit on each pair of a plan means in the quantity, ± its unit; null where the pair does not follow
 * the element, or no position of the dial shows it.
 *
 * @param own the circuit
 * @param plan of it
 */
export function errorsOfOwn(
  { rows, says }: OwnCircuit,
  { pairs }: Pick<MeasurementPlan, 'pairs'>,
): (number | null)[] {
  const ohms = says ? ohmsTyped(rows.find((r) => r.id.trim() === says.element)?.ohms ?? '') : Number.NaN;
  return pairs.map(({ parts, expected, limit }) => {
    const part = parts.find((p) => p.id === says?.element)?.part ?? 0;
    // Ω of the element that the limit is, by the share of the current that flows through it.
    const inElement = (limit * ohms) / (part * expected);
    const error =
      says && part > 0 ? passedOn(conversionSum(says.conversion).of, ohms, inElement) : Number.NaN;
    return Number.isFinite(error) ? error : null;
  });
}

/** What a meter should show between two points of a circuit. */
export interface Between {
  /** Ω; Infinity where nothing joins them. */
  readonly ohms: number;
  /** Ω over the range, rising. */
  readonly span: readonly [low: number, high: number];
  /** Of each element its part of the reading, 0 to 1, the largest first. */
  readonly parts: readonly { readonly id: string; readonly part: number }[];
}

/** @param a a node of the circuit @param b another */
export function betweenPoints({ now, ends }: PlannedCircuit, a: string, b: string): Between {
  const network = networkOfCircuit(now);
  const driven = drive(network, a, b);
  const shares = sharesOf(network, driven);
  const all = [driven.ohms, ...ends.map((end) => resistanceBetween(networkOfCircuit(end), a, b))];
  return {
    ohms: driven.ohms,
    span: [Math.min(...all), Math.max(...all)],
    parts: now.elements
      .map((e, i) => ({ id: e.id, part: (shares[i]! * e.ohms) / driven.ohms }))
      .filter(({ part }) => part > 1e-6)
      .sort((p, q) => q.part - p.part),
  };
}

/** V per V of the excitation at the output, now and at both ends of the range; null where none is put or read. */
export function dividedBy({ now, ends }: PlannedCircuit): readonly [number, number, number] | null {
  const { reads } = now;
  if (reads?.kind !== 'ratio') return null;
  const [plus, minus] = reads.taps.map((t) => t.node) as [string, string];
  const [at, low, high] = [now, ...ends].map((c) =>
    dividedBetween(networkOfCircuit(c), reads.drive, [plus, minus]),
  ) as [number, number, number];
  return [at, low, high];
}
