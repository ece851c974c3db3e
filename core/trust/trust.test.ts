import { cairnOf, findingKinds, holding, joinAlike, saidAt, stoneNames, urgencyOf } from './finding';
import { findingsOf } from './findings';
import { standingAt } from './standing';
import type { ChannelFacts, LoggerFacts, OpenFacts, StationFacts } from './stationFacts';

const now = Date.UTC(2026, 2, 2, 10);
const day = 86_400_000;

const channel: ChannelFacts = {
  id: 'c1',
  name: 'Map store humidity',
  quantity: 'humidity',
  enabled: true,
  source: 'logger',
  settings: { everWritten: true, stagedAt: null, readBackDiffers: false },
  reference: {
    found: [],
    last: { at: now - 20 * day, difference: 0.4, limit: 3, outcome: 'agree' },
    openSince: null,
    foundOff: null,
    part: null,
    every: 180,
  },
  record: {
    lastAt: now - 600_000,
    storageInterval: 600,
    gaps: [],
    flagged: { suspect: 0, failed: 0, at: null, reason: '' },
    stuckSince: null,
    twin: null,
    gauge: null,
  },
};
const station: StationFacts = {
  stationId: 's1',
  open: [],
  logger: {
    id: 'l1',
    name: 'BR4-1903',
    lastContact: now - 3_600_000,
    lastContactFault: null,
    lastCollectedAt: now - 300_000,
    openWrites: [],
    clock: { at: now, difference: 1, uncertainty: 0.5 },
    launch: null,
    factoryLogIn: false,
    badFirmware: [],
    unstored: false,
    own: { stagedAt: null, readBackDiffers: false },
    externals: [],
  },
  installations: [
    {
      id: 'i1',
      name: 'TH3-1031 (Map store)',
      profile: null,
      leadsRecorded: 5,
      leadsNeeded: 5,
      supply: { atSensor: 12.1, low: 9, high: 28 },
      lastTalk: { at: now - day, fault: null },
      channelIds: ['c1'],
    },
  ],
  channels: [channel],
};
const external = (change: Partial<LoggerFacts['externals'][number]>): LoggerFacts['externals'][number] => ({
  terminal: 'PU',
  activated: true,
  sensor: 'R2-0457',
  channelIds: ['c1'],
  someOn: true,
  ...change,
});
const withLogger = (change: Partial<LoggerFacts>): StationFacts => ({
  ...station,
  logger: { ...station.logger!, ...change },
});
const recordWith = (change: Partial<ChannelFacts['record']>): StationFacts =>
  withChannel({ record: { ...channel.record, ...change } });
const withChannel = (change: Partial<ChannelFacts>): StationFacts => ({
  ...station,
  channels: [{ ...channel, ...change }],
});
const hour = 3_600_000;
const withOpen = (change: Partial<OpenFacts>): StationFacts => ({
  ...station,
  open: [
    { kind: 'leads-off', subject: 'i1', who: 'TH3-1031', since: now - 2 * day - hour, left: null, ...change },
  ],
});
const found = (facts: StationFacts) => holding(findingsOf(facts), now);
const codes = (facts: StationFacts) => found(facts).map((f) => f.code);

describe('a station of which all is known and well', () => {
  test('gives no finding, and its five stones stand', () => {
    expect(found(station)).toEqual([]);
    expect(cairnOf([])).toEqual(Object.fromEntries(stoneNames.map((s) => [s, 'sound'])));
  });
});

describe('one cause changed, one stone and its reason change', () => {
  const cases: [string, StationFacts, string, (typeof stoneNames)[number], 'missing' | 'displaced'][] = [
    [
      'a write of unknown outcome',
      withLogger({ openWrites: [{ channelId: 'c1', unknownFrom: -Infinity }] }),
      'action-unknown',
      'power and link',
      'displaced',
    ],
    [
      'a failed contact',
      withLogger({ lastContactFault: 'no answer' }),
      'link-failed',
      'power and link',
      'displaced',
    ],
    [
      'never contacted',
      withLogger({ lastContact: null, lastCollectedAt: null }),
      'never-contacted',
      'power and link',
      'missing',
    ],
    [
      'an old contact',
      withLogger({ lastContact: now - 5 * day, lastCollectedAt: now - 5 * day }),
      'contact-old',
      'power and link',
      'displaced',
    ],
    [
      'a name read back otherwise',
      withLogger({ own: { stagedAt: null, readBackDiffers: true } }),
      'own-differs',
      'settings',
      'displaced',
    ],
    [
      'a name that is staged',
      withLogger({ own: { stagedAt: now - day, readBackDiffers: false } }),
      'own-staged',
      'settings',
      'displaced',
    ],
    ['what is written and not stored', withLogger({ unstored: true }), 'not-stored', 'settings', 'displaced'],
    [
      'an external sensor nobody activated',
      withLogger({ externals: [external({ activated: false })] }),
      'not-activated',
      'settings',
      'displaced',
    ],
    [
      'one that feeds no channel',
      withLogger({ externals: [external({ someOn: false })] }),
      'activated-for-nothing',
      'settings',
      'displaced',
    ],
    [
      'its reference found off since, so that the check says something else',
      withChannel({
        reference: {
          ...channel.reference,
          foundOff: { instrument: 'Air handheld HX-771', quantity: 'airTemperature', by: 0.8 },
        },
      }),
      'reference-off',
      'reference',
      'displaced',
    ],
    [
      'a part replaced since the last check',
      withChannel({ reference: { ...channel.reference, part: { name: 'cap', at: now - day } } }),
      'part-changed',
      'reference',
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
      withLogger({ clock: { at: now, difference: 180, uncertainty: 0.5 } }),
      'clock-off',
      'record',
      'displaced',
    ],
    ['nothing collected', recordWith({ lastAt: null }), 'never-collected', 'record', 'missing'],
    ['a record that stopped', recordWith({ lastAt: now - day }), 'record-stopped', 'record', 'displaced'],
    ['a stuck sensor', recordWith({ stuckSince: now - 2 * day }), 'stuck', 'record', 'displaced'],
    ['a gap', recordWith({ gaps: [{ from: 0, until: 7200, missing: 12 }] }), 'gap', 'record', 'displaced'],
    [
      '145 values marked fail',
      recordWith({ flagged: { suspect: 0, failed: 145, at: now - day, reason: 'spike: 145 fail' } }),
      'values-failed',
      'record',
      'displaced',
    ],
    [
      'suspect values',
      recordWith({ flagged: { suspect: 9, failed: 0, at: now - day, reason: 'flat line: 9 suspect' } }),
      'values-suspect',
      'record',
      'displaced',
    ],
    [
      'unlike its twin',
      recordWith({ twin: { difference: 2.6, limit: 2, name: 'ARCH-1 Lantern room' } }),
      'unlike-twin',
      'record',
      'displaced',
    ],
    [
      'unlike the gauge that was read',
      recordWith({ gauge: { at: now - day, difference: -0.035, limit: 0.015, name: 'RP1' } }),
      'unlike-gauge',
      'record',
      'displaced',
    ],
    [
      'a memory that may be full in two days',
      withLogger({ launch: { endsAt: now + 2 * day, what: 'memory' } }),
      'launch-ends',
      'record',
      'displaced',
    ],
    [
      'a log-in that is still the factory’s',
      withLogger({ factoryLogIn: true }),
      'factory-log-in',
      'power and link',
      'displaced',
    ],
    [
      'a firmware that is known to be bad',
      withLogger({ badFirmware: ['It stores rows twice.'] }),
      'firmware-bad',
      'settings',
      'displaced',
    ],
    [
      'leads that somebody left off, with their reason',
      withOpen({ left: { at: now - 2 * day, by: 'IK', reason: 'wet gland, to be dried' } }),
      'left-open',
      'wiring',
      'displaced',
    ],
    [
      'a line left to somebody else than the logger, and nobody knew',
      withOpen({ kind: 'line-held', left: { at: now - day, by: 'IK', reason: '' } }),
      'left-open',
      'power and link',
      'displaced',
    ],
    [
      'leads off for longer than a visit',
      withOpen({ since: now - 9 * hour }),
      'left-open',
      'wiring',
      'displaced',
    ],
    [
      'talked to, not collected',
      withLogger({ lastCollectedAt: now - 4 * day }),
      'not-collected',
      'record',
      'displaced',
    ],
  ];
  test.each(cases)('%s', (_, facts, code, stone, state) => {
    const findings = found(facts);
    expect(findings.map((f) => f.code)).toEqual([code]);
    // Verify says the same, in its word for it.
    expect(standingAt(findings, { id: 'c1', enabled: true }, now).word).toBe(
      findingKinds[code as keyof typeof findingKinds].word ?? 'good',
    );
    expect(cairnOf(findings)[stone]).toBe(state);
    expect(Object.values(cairnOf(findings)).filter((s) => s !== 'sound')).toHaveLength(1);
    expect(findings[0]!.text).toMatch(/\S/);
    expect(findings[0]!.next).toMatch(/\S/);
  });
});

test('leads off during a visit, and what only waits, displace nothing until somebody goes', () => {
  expect(codes(withOpen({ since: now - 7 * hour }))).toEqual([]);
  expect(codes(withOpen({ kind: 'check-open' }))).toEqual([]);
  expect(codes(withOpen({ kind: 'settings-staged' }))).toEqual([]);
});

test('what was left open is first on the Round, with its age and its reason', () => {
  const open = withOpen({ left: { at: now - 2 * day, by: 'IK', reason: 'wet gland, to be dried' } }).open;
  const worst = found({ ...withLogger({ openWrites: [{ channelId: 'c1', unknownFrom: -Infinity }] }), open });
  expect(worst.map((f) => f.code)).toEqual(['left-open', 'action-unknown']);
  expect(`${worst[0]!.who}: ${saidAt(worst[0]!.text, now)}`).toBe(
    'TH3-1031: leads off for 2 d; left open 2 d ago by IK: wet gland, to be dried',
  );
});

test('one that is left alone is not missed before it has to be read out', () => {
  const alone = { lastContact: now - 20 * day, lastCollectedAt: now - 20 * day };
  expect(codes(withLogger(alone))).toEqual(['contact-old']);
  const launch = (days: number) => ({ endsAt: now + days * day, what: 'memory' as const });
  expect(codes(withLogger({ ...alone, launch: launch(9) }))).toEqual([]);
  expect(codes(withLogger({ ...alone, launch: launch(-1) }))).toEqual(['launch-ends', 'contact-old']);
});

describe('drift', () => {
  const at = (days: number, difference: number) => ({
    at: now - days * day,
    difference,
    reference: 'HX-771',
    referenceTolerance: 1,
  });
  const drifting = (...history: ReturnType<typeof at>[]) =>
    found(withChannel({ reference: { ...channel.reference, found: history } }));
  test('as-found differences on their way out of tolerance are said before they are there', () => {
    const [f] = drifting(at(80, -0.5), at(60, 0.4), at(40, 1.4), at(20, 2.3));
    expect(f).toMatchObject({ code: 'drifting', stone: 'reference' });
    expect(saidAt(f!.text, now)).toMatch(/^\+1\.4 %RH a month over 4 checks, (in about \d+ h|by that line)/);
  });
  test('a drift that would take months is not; nor a step that two checks may show by chance', () => {
    expect(drifting(at(60, 0.5), at(20, 0.6))).toEqual([]);
    expect(drifting(at(60, 0.2), at(20, 2.1))).toEqual([]);
  });
});

describe('a check that decided nothing changes nothing', () => {
  // What the gatherer hands on: the last check that decided something; see server/trust/facts.test.ts.
  test('beyond tolerance stays known until a check decides otherwise', () => {
    const last = { at: now - 9 * day, difference: 5, limit: 3, outcome: 'left-outside' as const };
    expect(codes(withChannel({ reference: { ...channel.reference, last } }))).toEqual(['beyond-tolerance']);
  });
});

describe('order', () => {
  test('channels of one logger with the same gap are said once', () => {
    const gaps = [{ from: 0, until: 7200, missing: 12 }];
    const two: StationFacts = {
      ...station,
      channels: [1, 2].map((n) => ({ ...channel, id: `c${n}`, record: { ...channel.record, gaps } })),
    };
    expect(joinAlike(found(two)).map((f) => `${f.who}: ${f.text}`)).toEqual([
      '2 channels: 12 values missing in 30 d, longest 2 h',
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
    expect(codes(withLogger({ clock: { at: now, difference: 32, uncertainty: 5 } }))).toEqual([]);
  });
  test('the heaviest finding decides, then the sum', () => {
    const of = (...w: number[]) => urgencyOf(w.map((weight) => ({ weight })));
    expect(of(40, 30)).toEqual({ heaviest: 40, total: 70 });
    expect(of()).toEqual({ heaviest: 0, total: 0 });
  });
  test('what may be acting on the world outweighs what is only due', () => {
    const w = findingKinds;
    expect(w['action-unknown'].weight).toBeGreaterThan(w.stuck.weight);
    expect(w.stuck.weight).toBeGreaterThan(w['check-overdue'].weight);
  });
});
