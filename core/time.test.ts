import { inMilliseconds, inSeconds, type Milliseconds, type Seconds } from './time';

const second: Seconds = 1;
const instant: Milliseconds = 1000;
const wait = (ms: Milliseconds) => ms;
const interval = (s: Seconds) => s;

export const refused = () => [
  // @ts-expect-error seconds where milliseconds are wanted
  wait(second),
  // @ts-expect-error milliseconds where seconds are wanted
  interval(instant),
  // @ts-expect-error the same in an object
  { from: second } satisfies { from: Milliseconds },
];

test('there and back', () => {
  expect(wait(inMilliseconds(second))).toBe(1000);
  expect(interval(inSeconds(instant))).toBe(1);
  expect(wait(5) + interval(5)).toBe(10);
});
