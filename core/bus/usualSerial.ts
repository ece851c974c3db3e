import { serialText, type SerialSettings } from './serial';

const of = (baud: number, parity: SerialSettings['parity'], stopBits: 1 | 2 = 1): SerialSettings => ({
  baud,
  dataBits: 8,
  parity,
  stopBits,
});

/**
 * The serial parameters that devices on RS-485 leave their makers with, likeliest first: 19 200 baud 8E1 is what
 * the specification asks for, 9600 8N1 what most have. Source: MODBUS over Serial Line V1.02, 3.3 (from memory);
 * the order after the first two: common practice, no source.
 */
export const usualSerial: readonly SerialSettings[] = [
  of(9600, 'none'),
  of(19_200, 'even'),
  of(9600, 'even'),
  of(19_200, 'none'),
  of(4800, 'none'),
  of(38_400, 'none'),
  of(38_400, 'even'),
  of(115_200, 'none'),
  of(57_600, 'none'),
  of(9600, 'none', 2),
  of(2400, 'none'),
];

/**
 * What to try on a line, likeliest first: as its model is delivered, then the usual ones; never what was tried.
 *
 * @param delivered as the model leaves its maker
 * @param tried what was tried already
 * @example serialToTry({ baud: 4800, dataBits: 8, parity: 'none', stopBits: 1 }, []).length // 11
 */
export function serialToTry(
  delivered: SerialSettings,
  tried: readonly SerialSettings[],
): readonly SerialSettings[] {
  const seen = new Set(tried.map(serialText));
  return [delivered, ...usualSerial].filter((s) => {
    const text = serialText(s);
    if (seen.has(text)) return false;
    seen.add(text);
    return true;
  });
}
