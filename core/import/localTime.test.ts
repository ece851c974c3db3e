import fc from 'fast-check';
import { localTime } from './localTime';

const utc = (text: string) => Date.parse(text);

describe('local times', () => {
  // Rules of the IANA time zone database: Berlin changes at 01:00 UTC on the last Sundays of March and October.
  const berlin = localTime('Europe/Berlin');
  test('winter, summer, and the two hours a year that are not one', () => {
    expect(berlin(utc('2026-01-15T12:00Z'))).toBe(utc('2026-01-15T11:00Z'));
    expect(berlin(utc('2026-07-15T12:00Z'))).toBe(utc('2026-07-15T10:00Z'));
    expect(berlin(utc('2026-03-29T02:30Z'))).toBe('never-was');
    expect(berlin(utc('2026-10-25T02:30Z'))).toBe('was-twice');
    expect(berlin(utc('2026-03-29T03:00Z'))).toBe(utc('2026-03-29T01:00Z'));
    expect(berlin(utc('2026-10-25T01:59Z'))).toBe(utc('2026-10-24T23:59Z'));
    expect(berlin(utc('2026-10-25T03:00Z'))).toBe(utc('2026-10-25T02:00Z'));
  });
  test('half an hour of summer time, and a day that was left out', () => {
    const lordHowe = localTime('Australia/Lord_Howe');
    expect(lordHowe(utc('2026-10-04T02:15Z'))).toBe('never-was');
    expect(lordHowe(utc('2026-04-05T01:45Z'))).toBe('was-twice');
    // Samoa skipped 30 December 2011 (IANA, Pacific/Apia).
    expect(localTime('Pacific/Apia')(utc('2011-12-30T12:00Z'))).toBe('never-was');
  });
  test('there and back for any instant that is neither', () => {
    const zones = ['Europe/Berlin', 'America/Los_Angeles', 'Asia/Kathmandu', 'Etc/GMT-1'];
    fc.assert(
      fc.property(
        fc.constantFrom(...zones),
        fc.integer({ min: utc('1990-01-01'), max: utc('2030-01-01') }),
        (zone, instant) => {
          const minute = Math.floor(instant / 60_000) * 60_000;
          const wall = wallClock(zone, minute);
          const back = localTime(zone)(wall);
          expect(back === minute || back === 'was-twice').toBe(true);
        },
      ),
      { numRuns: 300 },
    );
  });
  test('an unknown zone is a mistake of the caller', () =>
    expect(() => localTime('Moon/Copernicus')).toThrow(RangeError));
});

/** The wall clock by the platform's own calendar, as a second witness. */
function wallClock(timeZone: string, ms: number): number {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
  }).formatToParts(ms);
  const part = (type: string) => Number(parts.find((p) => p.type === type)!.value);
  return Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'));
}
