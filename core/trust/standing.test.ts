import { standingOf, type StandingFacts } from './standing';

const now = Date.UTC(2026, 2, 2, 10);
const day = 86_400_000;
const sound: StandingFacts = {
  quantity: 'humidity',
  enabled: true,
  fedBy: 'logger',
  lastAt: now - 600_000,
  collectedAt: now,
  storageInterval: 600,
  check: { difference: 0.4, limit: 3, outcome: 'agree' },
  drift: null,
  stuckSince: null,
  missing: { n: 0, longestAt: null },
  flagged: { suspect: 0, failed: 0, at: null, reason: '' },
  twin: null,
  clock: { difference: 1, uncertainty: 0.5 },
};
const word = (change: Partial<StandingFacts>) => standingOf({ ...sound, ...change });

test('a channel of which all is known and well is good', () => {
  expect(word({})).toEqual({
    word: 'good',
    weight: 0,
    reason: 'within every limit that is set',
    placeAt: null,
  });
});

describe('one cause, one word, its numbers, and the place that matters', () => {
  const cases: [string, Partial<StandingFacts>, string, RegExp, number | null][] = [
    ['nothing stored', { lastAt: null }, 'empty', /nothing stored/, null],
    ['switched off', { enabled: false }, 'unused', /switched off/, null],
    ['fell silent', { lastAt: now - 5 * 3_600_000 }, 'silent', /nothing for 5 h before/, now - 5 * 3_600_000],
    ['stands still', { stuckSince: now - 2 * day }, 'stuck', /not moved for 2 d/, now - 2 * day],
    [
      'left outside',
      { check: { difference: -4.2, limit: 3, outcome: 'left-outside' } },
      'off',
      /^−4\.2 %RH at the last check, agreement ends at ±3\.0$/,
      null,
    ],
    [
      'does not converge',
      { check: { difference: 5, limit: 3, outcome: 'does-not-converge' } },
      'off',
      /\+5\.0 %RH/,
      null,
    ],
    [
      'unlike its twin',
      { twin: { difference: 2.6, limit: 2, name: 'ARCH-1 Lantern room' } },
      'unlike twin',
      /^\+2\.6 %RH beside ARCH-1 Lantern room, they should agree within ±2\.0$/,
      null,
    ],
    [
      'failed values',
      { flagged: { suspect: 9, failed: 3, at: now - day, reason: 'spike: 3 fail' } },
      'failing',
      /^3 values failed: spike/,
      now - day,
    ],
    ['clock', { clock: { difference: -95, uncertainty: 0.5 } }, 'clock off', /2 min slow/, null],
    ['gaps', { missing: { n: 12, longestAt: now - 3 * day } }, 'gaps', /^12 values missing$/, now - 3 * day],
    [
      'drift',
      { drift: { perDay: 0.05, reachesLimitAt: now + 10 * day } },
      'drifting',
      /^\+1\.5 %RH a month, in 10 d beyond ±3\.0$/,
      null,
    ],
    [
      'drift that is over the line',
      { drift: { perDay: -0.1, reachesLimitAt: now - day } },
      'drifting',
      /by that line already beyond/,
      null,
    ],
    [
      'suspect values',
      { flagged: { suspect: 9, failed: 0, at: now - day, reason: 'flat line: 9 suspect' } },
      'suspect',
      /^9 values suspect/,
      now - day,
    ],
    ['never checked', { check: null }, 'unchecked', /never checked/, null],
  ];
  test.each(cases)('%s', (_, change, wanted, reason, placeAt) => {
    const s = word(change);
    expect(s.word).toBe(wanted);
    expect(s.reason).toMatch(reason);
    expect(s.placeAt).toBe(placeAt);
  });
});

test('what is inside its limit is left alone: a twin, a clock, a slow drift', () => {
  expect(
    word({
      twin: { difference: 1.9, limit: 2, name: 'x' },
      clock: { difference: 30.4, uncertainty: 0.5 },
      drift: { perDay: 0.01, reachesLimitAt: now + 200 * day },
    }).word,
  ).toBe('good');
});
test('of several the heaviest is said', () => {
  const both = word({ stuckSince: now - 2 * day, missing: { n: 5, longestAt: now }, check: null });
  expect(both.word).toBe('stuck');
  expect(word({ missing: { n: 5, longestAt: now }, check: null }).word).toBe('gaps');
});
test('a channel fed by files is not asked for checks, clocks or punctuality', () => {
  expect(
    word({
      fedBy: 'file',
      check: null,
      clock: { difference: 900, uncertainty: 0.5 },
      lastAt: now - 4000 * day,
    }).word,
  ).toBe('good');
});
