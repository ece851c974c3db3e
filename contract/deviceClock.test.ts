import fc from 'fast-check';
import { deviceTimeText, parseDeviceTime } from './deviceClock';

test('there and back', () =>
  fc.assert(
    fc.property(
      fc.date({ min: new Date('1970-01-01'), max: new Date('2100-01-01'), noInvalidDate: true }),
      fc.integer({ min: -1e9, max: 1e9 }),
      (at, ms) => {
        const said = { at: at.toISOString(), ahead: ms / 1000 };
        expect(parseDeviceTime(deviceTimeText(said))).toEqual({ ...said, ahead: said.ahead + 0 });
      },
    ),
  ));
test.each([
  '',
  'x',
  '2026-03-01; ahead=1',
  '2026-13-01T00:00:00.000Z; ahead=1',
  '2026-03-01T09:30:00.000Z; ahead=NaN',
  '2026-03-01T09:30:00.000Z; ahead=1e99',
])('"%s" says nothing', (text) => expect(parseDeviceTime(text)).toBeNull());
