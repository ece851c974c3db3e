import { rigOf, sweptSensors } from '@/test/faultSweep';
import { drawCircuit } from './drawing';
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
