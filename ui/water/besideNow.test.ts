import type { LevelRead } from '@/core/water/levelReading';
import { besideNow } from './besideNow';

const at = Date.UTC(2026, 4, 12, 9, 30);
const hour = 3_600_000;
const view = {
  points: [
    { id: 'cs', code: 'CS1', name: 'Crest pipe', kind: 'crest-stage', channelId: 'c2', retiredAt: null },
    { id: 'bed', code: 'BED', name: 'Bed', kind: 'bed', channelId: null, retiredAt: null },
  ],
  elevations: [{ pointId: 'bed', surveyId: 's', at: at - hour, elevation: 0.4, accuracy: 0.01 }],
  channels: [
    { id: 'c1', name: 'Well', zero: null, newest: null, far: 0.15 },
    {
      id: 'c2',
      name: 'Pool',
      zero: null,
      newest: { at: new Date(at - hour / 2).toISOString(), value: 2.1 },
      far: 0.2,
    },
  ],
  crests: { cs: [{ at: at - 30 * hour, level: 3.669 }] },
} as unknown as Parameters<typeof besideNow>[0];
const reading = (read: LevelRead, pointId: string | null = 'cs', later = 0) => ({
  id: 'r',
  pointId,
  at: at + later,
  read,
  accuracy: 0.003,
  elevation: null,
});
const crest = (peakAt: number | null): LevelRead => ({
  kind: 'crest',
  mark: 1.068,
  condition: 'sound',
  cork: 'line',
  peakAt,
  rechargedAt: null,
});

test('a reading of now stands beside what was logged last, as long as that is fresh', () => {
  const staff: LevelRead = { kind: 'staff', reads: 2 };
  expect(besideNow(view, reading(staff))).toEqual({ logged: 2.1, far: 0.8, bed: 0.4 });
  expect(besideNow(view, reading(staff, 'cs', hour))).toMatchObject({ logged: null });
  // By hand it goes by the first channel, which has logged nothing.
  expect(besideNow(view, reading({ kind: 'sum', sum: '5 − 2' }, null))).toMatchObject({ logged: null });
});

test('a crest stands beside the crest of the record that it is said to be of, not beside the water of now', () => {
  expect(besideNow(view, reading(crest(at - 30 * hour)))).toEqual({ logged: 3.669, far: 0.2, bed: 0.4 });
  expect(besideNow(view, reading(crest(null)))).toMatchObject({ logged: null });
  // One that the record does not know is the server's to look up.
  expect(besideNow(view, reading(crest(at - 50 * hour)))).toMatchObject({ logged: null });
});

test('a station without a record asks by the metre, one without a bed not by it', () => {
  const bare = { ...view, points: [], elevations: [], channels: [], crests: {} };
  expect(besideNow(bare, reading({ kind: 'staff', reads: 2 }))).toEqual({ logged: null, far: 1, bed: null });
});
