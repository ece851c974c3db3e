import { shippedProfile } from '@/catalogue/profiles';
import { mediaFor, mediumWords, togetherFor } from './together';

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
