import type { ChannelWatchView, RehearsalRecordView } from '@/contract/watch';
import { usualLimits } from '@/core/settings/limits';
import { ruleFault } from '@/core/watch/fault';
import { rehearseRecorded } from '@/core/watch/recorded';
import { noRule } from '@/core/watch/rule';
import { firstRule } from './firstRule';
import { groundOfView, unpacked } from './rehearsal';

const minute = 60_000;
const record = (change: Partial<RehearsalRecordView> = {}): RehearsalRecordView => ({
  from: 1000 * minute,
  until: 2000 * minute,
  at: [0, 10, 20, 30, 40].map((m) => m * minute),
  value: [50, 70, 71, 50, 50],
  runs: [
    [0, 0],
    [3, 1],
  ],
  arrived: [
    [0, 1025 * minute],
    [3, null],
    [4, 1041 * minute],
  ],
  before: { at: [-10 * minute], value: [44] },
  beside: { x: { at: [0, 15 * minute], value: [1, 0] } },
  offLine: [{ from: 1500 * minute, until: null, knownFrom: 1501 * minute, knownUntil: null }],
  doubted: [{ kind: 'flagged', from: 1010 * minute, until: 1011 * minute }],
  tooLong: false,
  readings: 5,
  ...change,
});

describe('a record as it was sent', () => {
  test('stamps, clock runs and arrivals are spread over their values again', () => {
    const r = unpacked(record());
    expect([...r.at].map((t) => t / minute)).toEqual([1000, 1010, 1020, 1030, 1040]);
    expect([...r.run]).toEqual([0, 0, 0, 1, 1]);
    expect([...r.arrived].map((t) => t / minute)).toEqual([1025, 1025, 1025, NaN, 1041]);
    expect(r.before.at[0]).toBe(990 * minute);
    expect([...r.beside.get('x')!.at].map((t) => t / minute)).toEqual([1000, 1015]);
    expect(r.offLine[0]).toMatchObject({ until: Infinity, knownUntil: Infinity });
  });
  test('nothing stored is nothing', () => {
    const r = unpacked(record({ at: [], value: [], runs: [], arrived: [] }));
    expect([r.at.length, r.run.length, r.arrived.length]).toEqual([0, 0, 0]);
  });
  test('it is played as it is, with what lies over it and what stands beside it', () => {
    const rule = { ...noRule, limits: { ...noRule.limits, high: 65 }, latest: 600 };
    const as = { asArrived: false, zone: 'Etc/UTC', gap: 60 * minute, besideOldest: 60 * minute };
    const [ring] = rehearseRecorded(rule, unpacked(record()), as).rings;
    expect(ring).toMatchObject({
      raised: 1010 * minute,
      returned: 1030 * minute,
      peak: 71,
      doubt: 'flagged',
    });
    // As it arrived, the first value beyond was too old; the one stamped five minutes before was not.
    const live = rehearseRecorded(rule, unpacked(record()), { ...as, asArrived: true }).rings;
    expect(live.map((r) => [r.at / minute, r.raised / minute])).toEqual([[1020, 1025]]);
    const gate = { channelId: 'x', side: 'above' as const, limit: 0.5, hysteresis: 0 };
    const gated = rehearseRecorded({ ...rule, gate }, unpacked(record()), as).rings;
    expect(gated.map((r) => [r.returned! / minute, r.ended])).toEqual([[1020, 'gate']]);
  });
});

describe('what a channel begins with', () => {
  const view = (change: Partial<ChannelWatchView> = {}): ChannelWatchView => ({
    stationId: 's',
    code: 'ARCH-1',
    name: 'Lantern room',
    site: 'Lantern Archive',
    zone: 'Etc/UTC',
    cautions: [],
    channelId: 'c',
    channelName: 'Lantern room humidity',
    quantity: 'humidity',
    unit: '%RH',
    decimals: 1,
    interval: 600,
    latency: 900,
    sensorRange: [0, 100],
    loggers: null,
    others: [],
    rules: [],
    firstAt: null,
    newestAt: null,
    everySeconds: null,
    proved: 'never',
    lastProof: null,
    proof: null,
    ...change,
  });
  test('limits that make sense for its quantity, and times that make sense for its station', () => {
    const rule = firstRule(view());
    expect(rule.limits).toEqual(usualLimits.humidity);
    expect([rule.silentAfter, rule.latest]).toEqual([1800, 3600]);
    const slow = firstRule(view({ latency: 86_400 }));
    expect([slow.silentAfter, slow.latest]).toEqual([172_800, 172_800]);
  });
  test('humidity does not begin with limits made for temperature', () => {
    expect(firstRule(view()).limits).not.toEqual(firstRule(view({ quantity: 'airTemperature' })).limits);
  });
  test('it can be armed as it is, wherever its quantity has limits', () => {
    for (const quantity of [
      'humidity',
      'airTemperature',
      'co2',
      'ph',
      'dissolvedOxygen',
      'waterTemperature',
    ] as const) {
      const of = view({ quantity, sensorRange: null });
      expect(ruleFault(firstRule(of), groundOfView(of))).toBeNull();
    }
  });
  test('where only the place can say, nothing is set but a silence', () => {
    expect(firstRule(view({ quantity: 'waterLevel' })).limits).toEqual(noRule.limits);
    expect(firstRule(view({ quantity: 'waterLevel', interval: null })).silentAfter).toBeNull();
  });
});
