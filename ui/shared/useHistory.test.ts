import { historyStep, type History, type HistoryStep } from './useHistory';

const run = (...steps: HistoryStep<number>[]): History<number> =>
  steps.reduce<History<number>>(historyStep, { past: [], now: 0, next: [] });
const to = (n: number, goesOn = false): HistoryStep<number> => ({ do: 'edit', to: () => n, goesOn });

test('each step is taken back and done again; another edit forgets what was taken back', () => {
  expect(run(to(1), to(2), { do: 'undo' })).toEqual({ past: [0], now: 1, next: [2] });
  expect(run(to(1), to(2), { do: 'undo' }, { do: 'redo' }).now).toBe(2);
  expect(run(to(1), { do: 'undo' }, to(3))).toEqual({ past: [0], now: 3, next: [] });
});
test('a drag is one step', () => {
  expect(run(to(1), to(2, true), to(3, true), { do: 'undo' }).now).toBe(0);
});
test('nothing is nothing: no change, nothing to take back, nothing to do again', () => {
  expect(run(to(0))).toEqual({ past: [], now: 0, next: [] });
  expect(run({ do: 'undo' }).now).toBe(0);
  expect(run({ do: 'redo' }).now).toBe(0);
});
test('what is loaded begins anew; two hundred steps are kept', () => {
  expect(run(to(1), { do: 'load', now: 7 })).toEqual({ past: [], now: 7, next: [] });
  expect(run(...Array.from({ length: 300 }, (_, i) => to(i + 1))).past).toHaveLength(200);
});
