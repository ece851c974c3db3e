/** What a pin of a cable was found to lead to at the other end. */
export type PinVerdict =
  | { readonly pin: number; readonly is: 'right' }
  | { readonly pin: number; readonly is: 'open' }
  /** It beeps at a pin where it should not, and not where it should. */
  | { readonly pin: number; readonly is: 'crossed'; readonly to: number }
  /** It beeps at more than one. */
  | { readonly pin: number; readonly is: 'short'; readonly with: readonly number[] };

/**
 * Which pin at the other end each pin leads to: the same one, or in a crossed cable the last for the first.
 *
 * @param pins how many, 1 or more
 * @param crossed whether the order is turned round
 * @returns of pin 1, 2, … the pin at the other end
 * @example pinsOf(3, true) // [3, 2, 1]
 */
export function pinsOf(pins: number, crossed: boolean): readonly number[] {
  if (!Number.isInteger(pins) || pins < 1) throw new RangeError(`${pins} pins is no cable`);
  return Array.from({ length: pins }, (_, i) => (crossed ? pins - i : i + 1));
}

/**
 * A patch cable tested with a beeper, pin by pin. Common practice, no source. RangeError where fewer pins were
 * tested than there are.
 *
 * @param expected of pin 1, 2, … the pin at the other end, as `pinsOf` gives them
 * @param beeps of pin 1, 2, … the pins at the other end where it beeped
 * @example judgePatchCable([1, 2], [[1], []]) // [{ pin: 1, is: 'right' }, { pin: 2, is: 'open' }]
 */
export function judgePatchCable(
  expected: readonly number[],
  beeps: readonly (readonly number[])[],
): readonly PinVerdict[] {
  if (beeps.length !== expected.length)
    throw new RangeError(`${beeps.length} pins tested, the cable has ${expected.length}`);
  return expected.map((wanted, i): PinVerdict => {
    const pin = i + 1;
    const found = beeps[i]!;
    if (found.length === 0) return { pin, is: 'open' };
    if (found.length > 1) return { pin, is: 'short', with: found.filter((p) => p !== wanted) };
    return found[0] === wanted ? { pin, is: 'right' } : { pin, is: 'crossed', to: found[0]! };
  });
}

/**
 * What a test found, in words.
 *
 * @param verdicts of one pin or of all
 * @example patchCableText([{ pin: 1, is: 'right' }, { pin: 2, is: 'open' }]) // 'pin 1 right, pin 2 open'
 */
export const patchCableText = (verdicts: readonly PinVerdict[]): string =>
  verdicts
    .map((v) => {
      switch (v.is) {
        case 'right':
          return `pin ${v.pin} right`;
        case 'open':
          return `pin ${v.pin} open`;
        case 'crossed':
          return `pin ${v.pin} goes to ${v.to}`;
        case 'short':
          return `pin ${v.pin} shorted with ${v.with.join(' and ')}`;
      }
    })
    .join(', ');
