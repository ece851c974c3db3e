import type { DischargeView, GaugingView } from '@/contract/discharge';
import { curveThrough } from '@/core/discharge/curve';
import { besideCurve, gaugedBeside } from './gauged';

/** Gaugings beside a curve, each by the section that held when it was made. */
const box = (id: string, from: string, width: number) => ({
  id,
  from: Date.parse(from),
  uncertainty: 0.03,
  note: '',
  by: 'AR',
  points: [
    { across: 0, elevation: 3 },
    { across: 0, elevation: 0 },
    { across: width, elevation: 0 },
    { across: width, elevation: 3 },
  ],
});
const gauging = (id: string, change: Partial<GaugingView> & { discharge?: number } = {}): GaugingView => ({
  id,
  begunAt: '2026-05-12T09:00:00Z',
  endedAt: '2026-05-12T10:00:00Z',
  sheet: { kind: 'stated', discharge: change.discharge ?? 4.2, U: 0.05, by: 'profiler' },
  level: 2,
  levelChange: 0,
  velocity: 0.5,
  velocityUncertainty: 0.02,
  note: '',
  by: 'AR',
  ...change,
});
const of = (...gaugings: GaugingView[]) =>
  gaugedBeside({
    sections: [box('wide', '2026-06-01T00:00:00Z', 10), box('narrow', '2026-05-01T00:00:00Z', 5)],
    gaugings,
  } as unknown as DischargeView);
const curves = {
  forward: curveThrough([{ level: 1, k: 0.8 }]),
  reverse: curveThrough([{ level: 1, k: 0.7 }]),
};

test('k is discharge ÷ (velocity · area) by the section of its day', () => {
  // 4.2 ÷ (0.5 · 5 · 2); a month later the section is twice as wide.
  const [may, june] = of(gauging('may'), gauging('june', { begunAt: '2026-06-12T09:00:00Z' }));
  expect(may!.k!.value).toBeCloseTo(0.84, 12);
  expect(may!.k!.U).toBeCloseTo(Math.hypot(0.05, 0.02), 12);
  expect(june!.k!.value).toBeCloseTo(0.42, 12);
});

test('beside the curve: how far off, by the curve of its direction', () => {
  const gauged = of(gauging('down'), gauging('up', { discharge: -3.5, velocity: -0.5 }));
  const [down, up] = besideCurve(gauged, curves);
  expect(down).toMatchObject({
    isReverse: false,
    k: { curve: 0.8, share: expect.closeTo(0.05, 12) as number },
  });
  expect(up).toMatchObject({ isReverse: true, k: { curve: 0.7, share: expect.closeTo(0, 12) as number } });
  // Where nobody led one against the stream, the other stands in.
  const [, alone] = besideCurve(gauged, { ...curves, reverse: null });
  expect(alone!.k!.curve).toBe(0.8);
});

test('without a velocity, or dry, a gauging says its discharge and nothing of k', () => {
  const gauged = of(gauging('blind', { velocity: null }), gauging('dry', { level: -1 }));
  expect(gauged.map((g) => [g.discharge, g.k])).toEqual([
    [4.2, null],
    [4.2, null],
  ]);
  expect(besideCurve(gauged, curves).every((b) => b.k === null)).toBe(true);
  const none = gaugedBeside({ sections: [], gaugings: [gauging('alone')] } as unknown as DischargeView);
  expect(none[0]!.k).toBeNull();
});
