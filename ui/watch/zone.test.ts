import type { BoardChannel } from '@/contract/watch';
import { colourOfZone, weightOfZone, zoneOfChannel } from './zone';

const channel = (change: Partial<BoardChannel> = {}): BoardChannel => ({
  stationId: 's',
  stationCode: 'ARCH-1',
  site: 'Lantern Archive',
  zone: 'Etc/UTC',
  channelId: 'c',
  name: 'Map store humidity',
  quantity: 'humidity',
  limits: { farLow: 25, low: 35, high: 65, farHigh: 80 },
  armed: true,
  value: 50,
  at: 0,
  arrived: null,
  interval: 600,
  silentAfter: null,
  recent: [],
  ringing: [],
  shelvedUntil: null,
  offLine: false,
  proved: 'never',
  ...change,
});
const rings = (cause: BoardChannel['ringing'][number]['cause'], level: -2 | -1 | 0 | 1 | 2 = 0) => ({
  alarmId: cause,
  cause,
  level,
  since: '2026-03-02T10:00:00Z',
  acknowledged: false,
});

describe('how a channel stands', () => {
  test.each<[string, Partial<BoardChannel>, unknown, string]>([
    ['within', {}, 0, 'within'],
    ['a limit that rings', { value: 70, ringing: [rings('limits', 1)] }, 1, 'too high'],
    ['far out', { value: 20, ringing: [rings('limits', -2)] }, -2, 'far too low'],
    // It rings still while its value is back: the deadband or the return delay is not over.
    ['back, and ringing', { value: 64, ringing: [rings('limits', 1)] }, 1, 'too high'],
    ['beyond, and silent about it', { value: 70 }, 1, 'too high, does not ring'],
    [
      'a silence before all else',
      { value: 70, ringing: [rings('limits', 1), rings('silent')] },
      'silent',
      'no value',
    ],
    ['a limit before its twin', { value: 70, ringing: [rings('twin'), rings('limits', 1)] }, 1, 'too high'],
    ['a twin', { ringing: [rings('twin')] }, 'unlike', 'unlike its twin'],
    ['a rate', { ringing: [rings('rate')] }, 'moves', 'moves too fast'],
    ['nothing yet', { value: null, at: null }, 'silent', 'no value'],
    ['off-line, whatever rings', { offLine: true, ringing: [rings('limits', 2)] }, 'off-line', 'off-line'],
    ['not armed, whatever its value', { armed: false, value: 99 }, 'unwatched', 'not armed'],
  ])('%s', (_, change, shape, word) => expect(zoneOfChannel(channel(change))).toMatchObject({ shape, word }));

  test('since when is said of what rings alone', () => {
    expect(zoneOfChannel(channel({ ringing: [rings('limits', 1)] })).since).toBe('2026-03-02T10:00:00Z');
    expect(zoneOfChannel(channel({ value: 70 }))).toMatchObject({ since: null, isQuiet: true });
    expect(zoneOfChannel(channel()).since).toBeNull();
  });

  test('the worst first: far out, silent, out, unlike, beyond without a ring, off-line, not armed, within', () => {
    const order = [
      channel({ name: 'silent', ringing: [rings('silent')] }),
      channel({ name: 'far', ringing: [rings('limits', 2)] }),
      channel({ name: 'unlike', ringing: [rings('twin')] }),
      channel({ name: 'out', ringing: [rings('limits', -1)] }),
      channel({ name: 'within' }),
      channel({ name: 'not armed', armed: false }),
      channel({ name: 'quiet', value: 20 }),
      channel({ name: 'off-line', offLine: true }),
    ]
      .sort((a, b) => weightOfZone(zoneOfChannel(b)) - weightOfZone(zoneOfChannel(a)))
      .map((c) => c.name);
    expect(order).toEqual(['silent', 'far', 'unlike', 'out', 'quiet', 'off-line', 'not armed', 'within']);
  });

  test('colour only supports the shape: high and low share one', () => {
    expect(colourOfZone({ shape: 1 })).toBe(colourOfZone({ shape: -1 }));
    expect(colourOfZone({ shape: 2 })).toBe(colourOfZone({ shape: 'silent' }));
    expect(new Set(([0, 1, 2, 'off-line'] as const).map((shape) => colourOfZone({ shape }))).size).toBe(4);
  });
});
