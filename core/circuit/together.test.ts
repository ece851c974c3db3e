import { shippedProfile } from '@/catalogue/profiles';
import { besideOf, mediaFor, mediumWords, togetherFor } from './together';

test('into water goes what is made to lie in it, or whose profile says so; other temperatures into a bag or the same air', () => {
  expect(mediaFor({}, 'waterTemperature')).toEqual(['water', 'bag', 'air']);
  expect(mediaFor({}, 'soilTemperature')).toContain('water');
  expect(mediaFor({}, 'airTemperature')).toEqual(['bag', 'air']);
  expect(mediaFor({ immersible: true }, 'airTemperature')).toContain('water');
  expect(mediaFor(shippedProfile('noust-p3')!, 'surfaceTemperature')).toEqual(['bag', 'air']);
});

test('what is no temperature of its own is put into nothing', () => {
  for (const quantity of ['humidity', 'dewPoint', 'windDirection', 'waterLevel', 'rain'] as const)
    expect(mediaFor({ immersible: true }, quantity)).toEqual([]);
});

test('five minutes together (common practice, no source); the looser the contact, the further the two may be apart', () => {
  expect(togetherFor).toBe(300);
  expect(mediumWords.water.apart).toBeLessThan(mediumWords.bag.apart);
  expect(mediumWords.bag.apart).toBeLessThan(mediumWords.air.apart);
});

test('a thermometer for water serves beside a sensor of soil; its own quantity comes first, humidity takes none', () => {
  const offered = [
    { quantity: 'humidity' },
    { quantity: 'waterTemperature' },
    { quantity: 'airTemperature' },
  ] as const;
  expect(besideOf('airTemperature', offered)).toBe(offered[2]);
  expect(besideOf('soilTemperature', offered)).toBe(offered[1]);
  expect(besideOf('humidity', offered.slice(1))).toBeNull();
  expect(besideOf('dewPoint', offered)).toBeNull();
});
