import fc from 'fast-check';
import { rigOf, sweptSensors } from '@/test/faultSweep';
import { drawCircuit, linkHalf } from './drawing';
import { readOwn } from './own';
import { ownTemplates } from './ownTemplates';
import { leadsOff } from './rig';

const drawn = (code: string) => drawCircuit(leadsOff(rigOf(code).at(code === 'ayre-r2' ? 1 : 10)));

test('each lead is a row in its colour, with its terminal; two that meet at the sensor are joined by dots', () => {
  const d = drawn('noust-p3');
  expect(d.along.filter((a) => a.kind === 'lead').map((a) => a.colour)).toEqual([
    'red',
    'white',
    'white/red',
  ]);
  expect(d.names.map((n) => n.text)).toEqual(['1', '2', '3']);
  expect(d.joins).toHaveLength(1);
  const [join] = d.joins;
  for (const y of [join!.y1, join!.y2]) expect(d.dots).toContainEqual({ x: join!.x, y });
  // The element stands between the first two rows, left of the leads.
  expect(d.parts).toEqual([expect.objectContaining({ id: 'PRT', kind: 'sensing', y1: d.wires[0]!.y })]);
  expect(d.parts[0]!.x).toBeLessThan(join!.x);
});

test('every kind of circuit: elements do not lie over each other, ends stand on dots, all of it within the drawing', () => {
  for (const [, code] of sweptSensors) {
    const d = drawn(code);
    for (const p of d.parts) {
      for (const y of [p.y1, p.y2]) expect(d.dots).toContainEqual({ x: p.x, y });
      const over = d.parts.filter(
        (o) =>
          o !== p &&
          o.x === p.x &&
          Math.min(o.y1, o.y2) < Math.max(p.y1, p.y2) &&
          Math.max(o.y1, o.y2) > Math.min(p.y1, p.y2),
      );
      expect([code, over]).toEqual([code, []]);
    }
    for (const { x, y } of [...d.points, ...d.dots]) {
      expect(x).toBeGreaterThan(0);
      expect(x).toBeLessThan(d.width);
      expect(y).toBeLessThan(d.height);
    }
    expect(d.wires.every((w) => w.x1 <= w.x2 && Number.isFinite(w.x1))).toBe(true);
  }
});

/** Whether a drawing joins exactly what the circuit joins: a dot joins, what crosses without one does not. */
function joinsOf(circuit: Parameters<typeof drawCircuit>[0]): string[] {
  const d = drawCircuit(circuit);
  const key = (x: number, y: number) => `${Math.round(x)} ${Math.round(y)}`;
  const root = new Map<string, string>();
  const find = (k: string): string => {
    const up = root.get(k) ?? k;
    return up === k ? k : find(up);
  };
  const join = (a: string, b: string) => root.set(find(a), find(b));
  const places = [
    ...d.dots.map((p) => [p.x, p.y] as const),
    ...d.points.map((p) => [p.x, p.y] as const),
    ...d.parts.flatMap((p) => [[p.x, p.y1] as const, [p.x, p.y2] as const]),
    ...d.along.flatMap((a) =>
      a.kind === 'link' ? [[a.x - linkHalf, a.y1] as const, [a.x + linkHalf, a.y1] as const] : [],
    ),
    ...d.wires.flatMap((w) => [[w.x1, w.y] as const, [w.x2, w.y] as const]),
  ];
  for (const w of d.wires.filter((one) => one.colour === null))
    for (const [x, y] of places)
      if (y === w.y && x >= w.x1 - 0.5 && x <= w.x2 + 0.5) join(key(x, y), key(w.x1, w.y));
  for (const j of d.joins)
    for (const dot of d.dots)
      if (dot.x === j.x && dot.y >= j.y1 && dot.y <= j.y2) join(key(j.x, j.y1), key(dot.x, dot.y));
  const names = new Map<string, string>();
  const wrong: string[] = [];
  const stands = (node: string, x: number, y: number, what: string) => {
    const net = find(key(x, y));
    const other = names.get(net) ?? [...names].find(([, n]) => n === node)?.[1];
    if (other !== undefined && other !== node) wrong.push(`${what}: ${node} lies on ${other}`);
    const elsewhere = [...names].find(([k, n]) => n === node && k !== net);
    if (elsewhere) wrong.push(`${what}: ${node} in two places`);
    names.set(net, node);
  };
  const by = new Map(circuit.elements.map((e) => [e.id, e]));
  for (const p of d.parts) {
    const e = by.get(p.id);
    if (!e) continue;
    stands(e.from, p.x, p.y1, p.id);
    stands(e.to, p.x, p.y2, p.id);
  }
  for (const a of d.along) {
    const e = by.get(a.id)!;
    const wire = d.wires.find((w) => w.colour !== null && w.y === a.y1)!;
    stands(e.from, a.kind === 'lead' ? wire.x1 : a.x - linkHalf, a.y1, a.id);
    stands(e.to, a.kind === 'lead' ? wire.x2 : a.x + linkHalf, a.y1, a.id);
  }
  for (const p of d.points) stands(p.node, p.x, p.y, p.name);
  const missing = circuit.elements.filter((e) => ![...d.parts, ...d.along].some((p) => p.id === e.id));
  return [...wrong, ...missing.map((e) => `${e.id} is missing`)];
}

test('a drawing joins what its circuit joins, and nothing else: sensors, templates, whatever is typed', () => {
  for (const [, code] of sweptSensors)
    expect([code, joinsOf(rigOf(code).at(code === 'ayre-r2' ? 1 : 10))]).toEqual([code, []]);
  for (const own of ownTemplates) {
    const read = readOwn(own);
    if ('faults' in read) throw new Error(JSON.stringify([own.name, read.faults]));
    expect([own.name, joinsOf(read.now)]).toEqual([own.name, []]);
  }
  const node = fc.integer({ min: 0, max: 6 }).map((n) => 'abcdefg'[n]!);
  const any = fc.record({
    from: node,
    to: node,
    kind: fc.constantFrom('fixed', 'sensing', 'lead', 'link'),
  });
  fc.assert(
    fc.property(fc.array(any, { minLength: 1, maxLength: 12 }), (parts) => {
      const elements = parts
        .filter((p) => p.from !== p.to)
        .map((p, i) => ({
          ...p,
          id: `${p.kind}${i}`,
          ohms: p.kind === 'link' ? 0 : 100,
          tolerance: 0,
          hop: 'element' as const,
        }));
      const points = [...new Set(elements.flatMap((e) => [e.from, e.to]))].map((n) => ({
        node: n,
        name: n,
        colour: null,
        at: 'terminal' as const,
      }));
      expect(joinsOf({ elements, points, reads: null })).toEqual([]);
    }),
    { seed: 12, numRuns: 400 },
  );
});

test('what the logger brings stands right of its terminals; a loop shows its transmitter', () => {
  const half = drawn('noust-t1');
  const fixed = half.parts.find((p) => p.id === 'fixed resistor')!;
  expect(fixed.x).toBeGreaterThan(Math.max(...half.along.map((a) => a.x)));
  expect(drawn('ness-p4').parts.map((p) => p.kind)).toContain('transmitter');
});

test('a circuit without leads is drawn by its nodes', () => {
  const part = (id: string, from: string, to: string) =>
    ({ id, kind: 'fixed', from, to, ohms: 100, tolerance: 0, hop: 'element' }) as const;
  const d = drawCircuit({
    elements: [part('R1', 'a', 'b'), part('R2', 'b', 'c'), part('R3', 'a', 'c')],
    points: ['a', 'b', 'c'].map((node) => ({ node, name: node, colour: null, at: 'terminal' })),
    reads: null,
  });
  expect(d.names.map((n) => n.text)).toEqual(['a', 'b', 'c']);
  expect(d.parts).toHaveLength(3);
  // R3 passes b without a dot: it does not join there.
  const b = d.names.find((n) => n.text === 'b')!.y;
  const long = d.parts.find((p) => p.id === 'R3')!;
  expect(d.dots).not.toContainEqual({ x: long.x, y: b });
});
