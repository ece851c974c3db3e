import type { PhotographView } from '@/contract/photographs';
import { placeText } from '../shared/place';
import { pictureText } from './pictureText';
import { inside } from './redraw';

test.each([
  [4000, 3000, { width: 1920, height: 1440 }],
  [3000, 4000, { width: 1440, height: 1920 }],
  [800, 600, { width: 800, height: 600 }],
  [20_000, 3, { width: 1920, height: 1 }],
])('a picture of %d × %d is brought inside 1920, never made larger', (width, height, wanted) =>
  expect(inside(width, height, 1920)).toEqual(wanted),
);

test('what a picture shows and where it was taken, in words', () => {
  const picture = { occasion: 'after', note: 'from above' } as PhotographView;
  expect(pictureText(picture)).toBe('When done: from above');
  expect(pictureText({ ...picture, note: '' })).toBe('When done');
  expect(placeText(57.40833, -17.33333, 5)).toBe('57.40833° N, 17.33333° W');
});
