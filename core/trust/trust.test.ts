import { byUrgency, cairnOf, stoneNames, weights } from './finding';
import { findingsOf } from './findings';
import type { ChannelFacts, StationFacts } from './stationFacts';

const now = Date.UTC(2026, 2, 2, 10);
const day = 86_400_000;

const channel: ChannelFacts = {
  id: 'c1',
  name: 'Map store humidity',
  quantity: 'humidity',
  enabled: true,
  fedBy: 'logger',
  settings: { everWritten: true, stagedAt: null, readBackDiffers: false },
  reference: {
    found: [],
    last: { at: now - 20 * day, difference: 0.4, limit: 3, outcome: 'agree' },
    openSince: null,
    every: 180,
  },
  record: {
    lastAt: now - 600_000,
    lastCollectedAt: now - 300_000,
    storageInterval: 600,
    gaps: [],
    flatSince: null,
  },
};
const station: StationFacts = {
  now,
  lastContact: now - 3_600_000,
  lastContactFault: null,
  unknownActions: 0,
  clock: { at: now, difference: 1, uncertainty: 0.5 },
  installations: [
    {
      name: 'TH3-1031 (Map store)',
      leadsRecorded: 5,
      leadsNeeded: 5,
      supply: { atSensor: 12.1, low: 9, high: 28 },
      lastTalk: { at: now - day, fault: null },
    },
  ],
  channels: [channel],
};
const withChannel = (change: Partial<ChannelFacts>): StationFacts => ({
  ...station,
  channels: [{ ...channel, ...change }],
});
const codes = (facts: StationFacts) => findingsOf(facts).map((f) => f.code);

describe('a station of which all is known and well', () => {
  test('gives no finding, and its five stones stand', () => {
    expect(findingsOf(station)).toEqual([]);
    expect(cairnOf([])).toEqual(Object.fromEntries(stoneNames.map((s) => [s, 'sound'])));
  });
});

describe('one cause changed, one stone and its reason change', () => {
  const cases: [string, StationFacts, string, (typeof stoneNames)[number], 'missing' | 'displaced'][] = [
    [
      'a write of unknown outcome',
      { ...station, unknownActions: 1 },
      'action-unknown',
      'power and link',
      'displaced',
    ],
    [
      'a failed contact',
      { ...station, lastContactFault: 'no answer' },
      'link-failed',
      'power and link',
      'displaced',
    ],
    ['never contacted', { ...station, lastContact: null }, 'never-contacted', 'power and link', 'missing'],
    [
      'an old contact',
      { ...station, lastContact: now - 5 * day },
      'contact-old',
      'power and link',
      'displaced',
    ],
    [
      'too little supply',
      {
        ...station,
        installations: [{ ...station.installations[0]!, supply: { atSensor: 8, low: 9, high: 28 } }],
      },
      'supply-outside',
      'power and link',
      'displaced',
    ],
    [
      'leads unrecorded',
      { ...station, installations: [{ ...station.installations[0]!, leadsRecorded: 2 }] },
      'leads-unrecorded',
      'wiring',
      'missing',
    ],
    [
      'never talked to',
      { ...station, installations: [{ ...station.installations[0]!, lastTalk: null }] },
      'never-talked',
      'wiring',
      'missing',
    ],
    [
      'no proper answer',
      { ...station, installations: [{ ...station.installations[0]!, lastTalk: { at: now, fault: 'crc' } }] },
      'talk-failed',
      'wiring',
      'displaced',
    ],
    [
      'staged, not written',
      withChannel({ settings: { everWritten: true, stagedAt: now - 7_200_000, readBackDiffers: false } }),
      'staged',
      'settings',
      'displaced',
    ],
    [
      'never written',
      withChannel({ settings: { everWritten: false, stagedAt: null, readBackDiffers: false } }),
      'never-written',
      'settings',
      'missing',
    ],
    [
      'read back differs',
      withChannel({ settings: { everWritten: true, stagedAt: null, readBackDiffers: true } }),
      'read-back-differs',
      'settings',
      'displaced',
    ],
    [
      'left outside',
      withChannel({
        reference: {
          ...channel.reference,
          last: { at: now - day, difference: 5, limit: 3, outcome: 'left-outside' },
        },
      }),
      'beyond-tolerance',
      'reference',
      'displaced',
    ],
    [
      'does not converge',
      withChannel({
        reference: {
          ...channel.reference,
          last: { at: now - day, difference: 5, limit: 3, outcome: 'does-not-converge' },
        },
      }),
      'does-not-converge',
      'reference',
      'displaced',
    ],
    [
      'never checked',
      withChannel({ reference: { ...channel.reference, last: null } }),
      'never-checked',
      'reference',
      'missing',
    ],
    [
      'overdue',
      withChannel({ reference: { ...channel.reference, every: 10 } }),
      'check-overdue',
      'reference',
      'displaced',
    ],
    [
      'a check left open',
      withChannel({ reference: { ...channel.reference, openSince: now - 7_200_000 } }),
      'check-open',
      'reference',
      'displaced',
    ],
    [
      'a clock three minutes fast',
      { ...station, clock: { at: now, difference: 180, uncertainty: 0.5 } },
      'clock-off',
      'record',
      'displaced',
    ],
    [
      'nothing collected',
      withChannel({ record: { ...channel.record, lastAt: null } }),
      'never-collected',
      'record',
      'missing',
    ],
    [
      'a record that stopped',
      withChannel({ record: { ...channel.record, lastAt: now - day } }),
      'record-stopped',
      'record',
      'displaced',
    ],
    [
      'a stuck sensor',
      withChannel({ record: { ...channel.record, flatSince: now - 2 * day } }),
      'stuck',
      'record',
      'displaced',
    ],
    [
      'a gap',
      withChannel({ record: { ...channel.record, gaps: [{ from: 0, until: 7200, missing: 12 }] } }),
      'gap',
      'record',
      'displaced',
    ],
  ];
  test.each(cases)('%s', (_, facts, code, stone, state) => {
    const findings = findingsOf(facts);
    expect(findings.map((f) => f.code)).toEqual([code]);
    expect(cairnOf(findings)[stone]).toBe(state);
    expect(Object.values(cairnOf(findings)).filter((s) => s !== 'sound')).toHaveLength(1);
    expect(findings[0]!.text).toMatch(/\S/);
    expect(findings[0]!.next).toMatch(/\S/);
  });
});

describe('drift', () => {
  test('as-found differences on their way out of tolerance are said before they are there', () => {
    const found = [
      { at: now - 60 * day, difference: 0.5 },
      { at: now - 20 * day, difference: 2.1 },
    ];
    const [f] = findingsOf(withChannel({ reference: { ...channel.reference, found } }));
    expect(f).toMatchObject({ code: 'drifting', stone: 'reference' });
    expect(f!.text).toMatch(/\+1\.2 %RH a month over 2 checks, in about 3 d beyond ±3\.0/);
  });
  test('a drift that would take months is not', () => {
    const found = [
      { at: now - 60 * day, difference: 0.5 },
      { at: now - 20 * day, difference: 0.6 },
    ];
    expect(codes(withChannel({ reference: { ...channel.reference, found } }))).toEqual([]);
  });
});

describe('order', () => {
  test('channels of one logger with the same gap are said once', () => {
    const gaps = [{ from: 0, until: 7200, missing: 12 }];
    const two = {
      ...station,
      channels: [1, 2].map((n) => ({ ...channel, id: `c${n}`, record: { ...channel.record, gaps } })),
    };
    expect(findingsOf(two).map((f) => f.text)).toEqual([
      '2 channels: 12 readings each missing in the last 30 d, longest 2 h',
    ]);
  });
  test('a channel switched off is expected to do nothing', () => {
    expect(
      codes(
        withChannel({
          enabled: false,
          record: { ...channel.record, lastAt: null },
          reference: { ...channel.reference, last: null },
        }),
      ),
    ).toEqual([]);
  });
  test('the clock’s own uncertainty is given the benefit of the doubt', () => {
    expect(codes({ ...station, clock: { at: now, difference: 32, uncertainty: 5 } })).toEqual([]);
  });
  test('the heaviest finding decides, then the sum, then the name', () => {
    const stop = (name: string, ...w: number[]) => ({
      name,
      findings: w.map((weight) => ({ weight }) as never),
    });
    const order = [stop('d', 40), stop('b', 40, 30), stop('a', 90), stop('c'), stop('e', 40)]
      .sort(byUrgency)
      .map((s) => s.name);
    expect(order).toEqual(['a', 'b', 'd', 'e', 'c']);
  });
  test('what may be acting on the world outweighs what is only due', () => {
    expect(weights['action-unknown']).toBeGreaterThan(weights.stuck);
    expect(weights.stuck).toBeGreaterThan(weights['check-overdue']);
  });
});
