import { shippedProfile } from '@/catalogue/profiles';
import { channelInput, type ChannelInput } from './channelInput';
import { inputDifference, inputText } from './inputText';

const told = (code: string, key: string, leads: Record<string, string>, busId: number | null = null) => {
  const profile = shippedProfile(code)!;
  return channelInput(
    profile,
    profile.outputs.find((o) => o.key === key)!,
    {
      busId,
      busAddress: busId === null ? '0' : null,
      serial: 'A1-1',
      leads: Object.entries(leads).map(([colour, terminal]) => ({ colour, terminal })),
    },
  )!;
};

test.each<[string, ChannelInput, RegExp]>([
  ['Modbus', told('quern-th3', 'humidity', {}, 3), /^ID 3, register \d+, ÷ \d+/],
  ['SDI-12', told('noust-s3', 'soilTemperature', { teal: '9 SD' }), /^address 0 on 9 SD, value 2 of M/],
  ['chain', told('hask-a1', 'humidity', { lime: 'L1D' }), /^A1-1 on L1D, value 2, as it is/],
  [
    'bridge',
    told('noust-t1', 'soilTemperature', { copper: 'VX1', ivory: 'A1' }),
    /^ratio on A1 fed by VX1, /,
  ],
  ['differential', told('lum-a1', 'electricCurrent', { white: 'A1', black: 'A2' }), /^V on A1 against A2, /],
  ['pulses', told('ayre-r2', 'rain', { straw: 'P1' }), /^pulses on P1, × 0.25/],
])('%s in words', (_, input, words) => expect(inputText(input)).toMatch(words));

describe('what a logger holds beside what it was told', () => {
  const rain = told('ayre-r2', 'rain', { straw: 'P1' });
  test.each<[string, unknown, string]>([
    ['another terminal', { ...rain, terminal: 'P2' }, 'pulses on P2, × 0.25'],
    ['no conversion', { ...rain, conversion: [] }, 'pulses on P1, as it is'],
    ['nothing', null, 'none'],
    ['garbage', { kind: 'pulse', conversion: 7 }, 'nothing that can be read'],
    ['a field more', { ...rain, filter: true }, 'pulses on P1, × 0.25, in another form'],
  ])('%s', (_, held, found) =>
    expect(inputDifference(rain, held)).toEqual({ wanted: 'pulses on P1, × 0.25', found }),
  );
  test('equal however its fields are ordered', () => {
    const { kind, ...rest } = rain;
    expect(inputDifference(rain, { ...rest, kind })).toBeNull();
  });
});
