import { converter, differenceCiede2000, type Color } from 'culori';

/** sRGB of the words leads are called by. Our own reading of each word. */
const words: Readonly<Record<string, string>> = {
  red: '#c1272d',
  rose: '#e29aa6',
  pink: '#e8a0b4',
  plum: '#6b3a5b',
  violet: '#6a4c93',
  navy: '#1f2f5c',
  blue: '#2a5caa',
  teal: '#2a7f7f',
  mint: '#a8d8bd',
  green: '#2f8f46',
  lime: '#9bc53d',
  yellow: '#f2c81d',
  amber: '#e8a317',
  ochre: '#c78d2b',
  orange: '#e8731a',
  copper: '#b5653a',
  russet: '#8f4a2b',
  brown: '#6b4226',
  umber: '#5a4632',
  tan: '#c9a878',
  straw: '#e3cf8d',
  cream: '#efe4c4',
  ivory: '#f3ecd9',
  white: '#f5f5f2',
  clear: '#dfe3e2',
  bare: '#b08d6a',
  grey: '#8a8d8f',
  slate: '#5d6b77',
  black: '#1d1d1f',
};

/**
 * A lead's colour for a drawing, "#2a5caa"; of two, the first; grey where the word is not known.
 *
 * @param word "blue", "white/brown"
 * @example leadHex('white/red') // '#f5f5f2'
 */
export const leadHex = (word: string): string => words[word.split('/')[0]!.trim()] ?? '#8a8d8f';

/**
 * The stripe of a lead of two colours; null for one of one colour.
 *
 * @example leadStripe('white/red') // '#c1272d'
 */
export const leadStripe = (word: string): string | null => {
  const second = word.split('/')[1]?.trim();
  return second ? (words[second] ?? '#8a8d8f') : null;
};

const toLinear = converter('lrgb');
const toLab = converter('lab65');
const distance = differenceCiede2000();

/** What a dim warm lamp leaves of red, green and blue, and how much of it all. Our own choice: a lamp of about 2500 K, a fifth of the light. */
const lamp = { r: 1, g: 0.66, b: 0.3, level: 0.2 };

function underLamp(hexColour: string): Color {
  const { r, g, b } = toLinear(hexColour)!;
  return toLab({
    mode: 'lrgb',
    r: r * lamp.r * lamp.level,
    g: g * lamp.g * lamp.level,
    b: b * lamp.b * lamp.level,
  });
}

const seen = new Map<string, Color>();
function look(word: string): Color {
  const hexColour = leadHex(word);
  const known = seen.get(hexColour);
  if (known) return known;
  const colour = underLamp(hexColour);
  seen.set(hexColour, colour);
  return colour;
}

/** Distance below which two leads are taken for one another: red and brown, blue and black are. Our own choice. */
export const alikeBelow = 13;

/**
 * How far two leads are apart under a dim warm lamp, CIEDE2000. Two leads of which one has a stripe and the
 * other not are told apart by the stripe's distance from the ground, halved.
 *
 * @param a, b words of colours
 */
export function lampDistance(a: string, b: string): number {
  const ground = distance(look(a), look(b));
  const [sa, sb] = [leadStripe(a), leadStripe(b)];
  if (sa === null && sb === null) return ground;
  const stripe = distance(look(sa === null ? a : a.split('/')[1]!), look(sb === null ? b : b.split('/')[1]!));
  return Math.max(ground, stripe / 2);
}

const pairsSeen = new Map<string, number>();

/** Pairs of leads of one cable that are easily taken for one another, in order. A bare one is known by having no skin. */
export function confusable(
  colours: readonly string[],
): readonly { readonly a: string; readonly b: string; readonly distance: number }[] {
  const pairs: { a: string; b: string; distance: number }[] = [];
  for (let i = 0; i < colours.length; i++)
    for (let j = i + 1; j < colours.length; j++) {
      if (colours[i] === 'bare' || colours[j] === 'bare') continue;
      const key = `${colours[i]} ${colours[j]}`;
      let d = pairsSeen.get(key);
      if (d === undefined) pairsSeen.set(key, (d = lampDistance(colours[i]!, colours[j]!)));
      if (d < alikeBelow) pairs.push({ a: colours[i]!, b: colours[j]!, distance: d });
    }
  return pairs;
}
