import type { Circuit, CircuitElement, MeasuringPoint } from './circuit';

/** A circuit as it is drawn: rows run from the sensor to the logger, everything between rows stands upright. */
export interface CircuitDrawing {
  readonly width: number;
  readonly height: number;
  /** Wires along a row, with the colour of their lead where they have one. */
  readonly wires: readonly {
    readonly y: number;
    readonly x1: number;
    readonly x2: number;
    readonly colour: string | null;
  }[];
  /** Upright wires that join rows. */
  readonly joins: readonly { readonly x: number; readonly y1: number; readonly y2: number }[];
  /** A dot joins; what crosses without one does not. */
  readonly dots: readonly { readonly x: number; readonly y: number }[];
  /** Elements that stand between two rows. */
  readonly parts: readonly DrawnPart[];
  /** Leads and links, along their row. */
  readonly along: readonly (DrawnPart & { readonly colour: string | null })[];
  /** Where clips go. */
  readonly points: readonly (MeasuringPoint & { readonly x: number; readonly y: number })[];
  /** Names of terminals and nodes, beside their row. */
  readonly names: readonly {
    readonly text: string;
    readonly x: number;
    readonly y: number;
    readonly end: boolean;
  }[];
}
export interface DrawnPart {
  readonly id: string;
  readonly kind: CircuitElement['kind'] | 'transmitter';
  readonly ohms: number;
  readonly x: number;
  readonly y1: number;
  readonly y2: number;
}

/** Distances of the drawing, px at its own size. */
const size = { row: 74, column: 104, lead: 96, pad: 20, top: 44, name: 150, part: 26, letter: 8 } as const;

/** Half of what a link takes along its row, px. */
export const linkHalf = 15;

/** A row: a lead from the sensor to its terminal, or a node without one. */
interface Row {
  readonly y: number;
  readonly sensor: string | null;
  readonly lead: CircuitElement | null;
  readonly link: CircuitElement | null;
  readonly node: string | null;
}

/**
 * Lays a circuit out. Each lead is a row; what the sensor brings stands left of the leads, what the logger brings
 * right of them. A circuit without leads, or whose leads do not all run that way, is drawn as rows for its nodes.
 *
 * @param circuit elements and points
 */
export function drawCircuit({ elements, points, reads }: Circuit): CircuitDrawing {
  const linkOf = (lead: CircuitElement) =>
    elements.find((l) => l.kind === 'link' && l.from === lead.to) ?? null;
  const leads = leadsInRows(elements, linkOf);
  const onLeads = new Set(leads.flatMap((l) => [l.from, l.to, linkOf(l)?.to ?? '']));
  const upright: DrawnBetween[] = elements
    .filter((e) => !leads.some((l) => l === e || linkOf(l) === e))
    .map((e) => ({ id: e.id, kind: e.kind, ohms: e.ohms, from: e.from, to: e.to }));
  if (reads?.kind === 'loop')
    upright.push({
      id: 'transmitter',
      kind: 'transmitter',
      ohms: Number.NaN,
      from: reads.transmitter[1],
      to: reads.transmitter[0],
    });
  // What stands beside an element is its name.
  const column = Math.max(size.column, ...upright.map((e) => 2 * size.part + size.letter * e.id.length));
  const others = [...new Set(upright.flatMap((e) => [e.from, e.to]))].filter((n) => !onLeads.has(n));
  const at = (i: number) => size.top + i * size.row;
  const rows: Row[] = [
    ...leads.map((lead, i) => ({ y: at(i), sensor: lead.from, lead, link: linkOf(lead), node: null })),
    ...others.map((node, i) => ({ y: at(leads.length + i), sensor: null, lead: null, link: null, node })),
  ];
  const isRight = (e: DrawnBetween) =>
    leads.length > 0 && [e.from, e.to].every((n) => !leads.some((l) => l.from === n));
  const [left, right] = [upright.filter((e) => !isRight(e)), upright.filter(isRight)];
  const rowOf = (node: string): Row =>
    rows.find((r) => r.sensor === node || r.node === node || r.link?.to === node || r.lead?.to === node)!;
  const packed = (all: readonly DrawnBetween[]) =>
    intoColumns(all.map((e) => ({ e, y1: rowOf(e.from).y, y2: rowOf(e.to).y })));
  const leftColumns = packed(left);
  const rightColumns = packed(right);
  const namesLeft = leads.length === 0 ? size.name : 0;
  const x0 = size.pad + namesLeft;
  const sensorX = x0 + leftColumns.length * column;
  const leadX = sensorX + size.lead;
  const endX = leadX + size.lead * 0.9;
  const linkX = endX + size.lead * 0.55;
  const terminalX = linkX + size.lead * 0.5;
  const rightX = (c: number) => terminalX + size.name * 0.8 + c * column;
  // The first column stands next to the leads.
  const leftX = (c: number) => sensorX - (c + 1) * column + size.part;
  const placed = [
    ...leftColumns.flatMap((col, c) =>
      col.map((p) => ({ ...p, x: leads.length > 0 ? leftX(c) : x0 + c * column + size.part })),
    ),
    ...rightColumns.flatMap((col, c) => col.map((p) => ({ ...p, x: rightX(c) }))),
  ];
  const touched = (row: Row, of: readonly DrawnBetween[]) =>
    placed
      .filter((p) => of.includes(p.e) && (rowOf(p.e.from) === row || rowOf(p.e.to) === row))
      .map((p) => p.x);
  const wires = rows.flatMap((row) => {
    const its = row.lead;
    const colour = its ? its.id.replace(/^lead /, '') : null;
    const toLeft = touched(row, left);
    const toRight = touched(row, right);
    if (!its) {
      const all = [...toLeft, ...toRight];
      return all.length > 0
        ? [{ y: row.y, x1: Math.min(...all, leads.length > 0 ? Infinity : x0), x2: Math.max(...all), colour }]
        : [];
    }
    return [
      { y: row.y, x1: Math.min(sensorX, ...toLeft), x2: sensorX, colour: null },
      { y: row.y, x1: sensorX, x2: endX, colour },
      ...(row.link
        ? [
            { y: row.y, x1: endX, x2: linkX - linkHalf, colour: null },
            { y: row.y, x1: linkX + linkHalf, x2: terminalX, colour: null },
          ]
        : []),
      ...(toRight.length > 0
        ? [{ y: row.y, x1: row.link ? terminalX : endX, x2: Math.max(...toRight), colour: null }]
        : []),
    ];
  });
  const joined = (x: number, nodeOf: (row: Row) => string | null | undefined) =>
    [...new Set(rows.map(nodeOf))].flatMap((node) => {
      const its = node ? rows.filter((r) => nodeOf(r) === node).map((r) => r.y) : [];
      return its.length > 1 ? [{ x, ys: its, y1: Math.min(...its), y2: Math.max(...its) }] : [];
    });
  // Leads that meet at the sensor, and leads under one terminal.
  const shared = [...joined(sensorX, (r) => r.sensor), ...joined(terminalX, (r) => r.link?.to)];
  /** Of a row without a lead, where its name stands: what it joins begins or ends there. */
  const freeX = (row: Row) =>
    leads.length === 0
      ? x0
      : touched(row, right).length > 0
        ? Math.min(...touched(row, right))
        : Math.max(...touched(row, left));
  const pointAt = (p: MeasuringPoint) => {
    const row = rowOf(p.node);
    const x = !row.lead
      ? freeX(row)
      : row.sensor === p.node
        ? sensorX
        : row.lead.to === p.node
          ? endX
          : terminalX;
    return { ...p, x, y: row.y };
  };
  return {
    width:
      (right.length > 0
        ? rightX(rightColumns.length - 1) + column
        : leads.length > 0
          ? terminalX + size.name * 0.75
          : x0 + leftColumns.length * column) + size.pad,
    height: at(Math.max(0, rows.length - 1)) + size.top,
    wires,
    joins: shared.map(({ x, y1, y2 }) => ({ x, y1, y2 })),
    dots: [
      ...placed.flatMap((p) => [
        { x: p.x, y: p.y1 },
        { x: p.x, y: p.y2 },
      ]),
      ...shared.flatMap(({ x, ys }) => ys.map((y) => ({ x, y }))),
    ],
    parts: placed.map(({ e, x, y1, y2 }) => ({ id: e.id, kind: e.kind, ohms: e.ohms, x, y1, y2 })),
    along: rows.flatMap((row) => [
      ...(row.lead
        ? [
            {
              id: row.lead.id,
              kind: 'lead' as const,
              ohms: row.lead.ohms,
              x: leadX,
              y1: row.y,
              y2: row.y,
              colour: row.lead.id.replace(/^lead /, ''),
            },
          ]
        : []),
      ...(row.link
        ? [
            {
              id: row.link.id,
              kind: 'link' as const,
              ohms: row.link.ohms,
              x: linkX,
              y1: row.y,
              y2: row.y,
              colour: null,
            },
          ]
        : []),
    ]),
    points: points.map(pointAt),
    names: rows.flatMap((row): CircuitDrawing['names'][number][] =>
      row.link
        ? [{ text: row.link.to.replace(/^terminal /, ''), x: terminalX, y: row.y, end: false }]
        : row.node !== null
          ? [{ text: row.node, x: freeX(row), y: row.y, end: true }]
          : [],
    ),
  };
}

/**
 * The leads that become rows: all of them, where each runs from what the sensor brings to what the logger brings and
 * nothing else lies between the two; else none.
 */
function leadsInRows(
  elements: readonly CircuitElement[],
  linkOf: (lead: CircuitElement) => CircuitElement | null,
): readonly CircuitElement[] {
  const leads = elements.filter((e) => e.kind === 'lead');
  const others = elements.filter((e) => !leads.some((l) => l === e || linkOf(l) === e));
  const left = new Set(leads.map((l) => l.from));
  const inner = leads.map((l) => l.to);
  const right = new Set(leads.map((l) => linkOf(l)?.to ?? l.to));
  const fits =
    new Set(inner).size === leads.length &&
    ![...inner, ...right].some((node) => left.has(node)) &&
    leads.every((l) => {
      const link = linkOf(l);
      return (
        (!link || !inner.includes(link.to)) &&
        !elements.some((e) => e.kind === 'link' && e !== link && e.from === l.to)
      );
    }) &&
    others.every(({ from, to }) => {
      const at = [from, to];
      return (
        !at.some((node) => inner.includes(node) && !right.has(node)) &&
        !(at.some((node) => left.has(node)) && at.some((node) => right.has(node)))
      );
    });
  return fits ? leads : [];
}

interface DrawnBetween {
  readonly id: string;
  readonly kind: DrawnPart['kind'];
  readonly ohms: number;
  readonly from: string;
  readonly to: string;
}
interface Spanning {
  readonly e: DrawnBetween;
  readonly y1: number;
  readonly y2: number;
}

/** Elements into as few columns as they fit without lying over each other; short ones next to the leads. */
function intoColumns(all: readonly Spanning[]): Spanning[][] {
  const columns: Spanning[][] = [];
  const span = ({ y1, y2 }: Spanning) => [Math.min(y1, y2), Math.max(y1, y2)] as const;
  const sorted = [...all].sort((a, b) => Math.abs(a.y1 - a.y2) - Math.abs(b.y1 - b.y2));
  for (const its of sorted) {
    const [top, bottom] = span(its);
    const free = columns.find((c) =>
      c.every((other) => {
        const [from, to] = span(other);
        return bottom <= from || top >= to;
      }),
    );
    if (free) free.push(its);
    else columns.push([its]);
  }
  return columns;
}
