import { rigOf } from '@/test/faultSweep';
import { faultKinds } from './explanation';
import { actSeconds, debrief, openExercise, secondsOff, showOn, solve, type Act } from './exercise';
import { exerciseMeter } from './exercise';
import { exercises } from './exercises';

const opened = (n: number) => {
  const its = exercises.find((e) => e.number === n)!;
  return openExercise(its, rigOf(its.sensor));
};

test('twelve or more, graded, every kind of fault among them', () => {
  expect(exercises.length).toBeGreaterThanOrEqual(12);
  expect([...new Set(exercises.map((e) => e.grade))]).toEqual(['easy', 'middling', 'hard']);
  expect([...new Set(exercises.map((e) => e.fault))].sort()).toEqual([...faultKinds].sort());
  expect(exercises.map((e) => e.number)).toEqual(exercises.map((_, i) => i + 1));
});

test.each(exercises.map((e) => [e.number, e] as const))(
  'exercise %d is solved by the tool’s own plan',
  (n) => {
    const { debrief: its, first } = solve(opened(n));
    expect([n, first, its.isRight]).toEqual([n, first, true]);
  },
);

test('an exercise is the same whenever it is opened', () => {
  for (const n of [4, 6, 10]) {
    expect(opened(n).cabinet.truth).toEqual(opened(n).cabinet.truth);
    expect(opened(n).before).toEqual(opened(n).before);
  }
});

test('ohms jump while the logger feeds, volts are nothing with the leads off, both clips on one point read nothing', () => {
  const its = opened(4);
  const range = exerciseMeter[0]!;
  const ohms = { kind: 'ohms', from: 'red lead end', to: 'white lead end', range } as const;
  expect(showOn(its, ohms, false).kind).toBe('jumps');
  expect(showOn(its, ohms, true).kind).toBe('reads');
  expect(showOn(its, { ...ohms, kind: 'volts' }, true).kind).toBe('nothing');
  const same = showOn(its, { ...ohms, to: ohms.from }, true);
  expect(same).toMatchObject({ kind: 'reads', observation: { shows: 0 } });
});

test('the clock runs while leads are off, and the debrief says right and wrong', () => {
  const its = opened(4);
  const range = exerciseMeter[0]!;
  const of = { kind: 'ohms', from: 'red lead end', to: 'white lead end', range } as const;
  const acts: Act[] = [
    { act: 'read', of, clipsMoved: 2, dialTurned: true },
    { act: 'leads-off' },
    { act: 'read', of, clipsMoved: 0, dialTurned: false },
    { act: 'leads-on' },
    { act: 'read', of, clipsMoved: 2, dialTurned: true },
  ];
  expect(secondsOff(acts)).toBe(actSeconds.leadsOff + actSeconds.read + actSeconds.leadsOn);
  const shown = showOn(its, of, true);
  const readings = shown.kind === 'reads' ? [shown.observation] : [];
  expect(debrief(its, acts, readings, 'lead-high lead red').isRight).toBe(true);
  const wrong = debrief(its, acts, readings, 'open PRT');
  expect([wrong.isRight, wrong.yours.readings]).toEqual([false, 3]);
  expect(wrong.best.secondsOff).toBeGreaterThan(actSeconds.leadsOff + actSeconds.leadsOn);
});
