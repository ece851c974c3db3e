import type { BenchSensorView } from '@/contract/bench';
import type { MeterRange } from '@/core/circuit/meter';
import type { Measured } from '@/core/circuit/session';
import { mediumWords } from '@/core/circuit/together';
import { ohmsText } from '@/core/circuit/words';
import { formatValue } from '@/core/quantity/format';

const units = { ohms: 'Ω', 'volts-dc': 'V DC', 'volts-ac': 'V AC', milliamps: 'mA' } as const;

/** A position of the dial as it is printed there: "200 kΩ", "20 V DC". */
export function dialText({ does, upTo }: MeterRange): string {
  if (does === 'ohms') return ohmsText(upTo);
  return upTo < 1 && does !== 'milliamps'
    ? `${Number((upTo * 1000).toPrecision(3))} m${units[does]}`
    : `${Number(upTo.toPrecision(3))} ${units[does]}`;
}

/** What a meter shows, in its unit. */
export const shownText = (value: number, { does }: MeterRange): string =>
  does === 'ohms' ? ohmsText(value) : `${Number(value.toPrecision(4))} ${units[does].split(' ')[0]}`;

/** ± of a meter on a pair, Ω. */
export const limitText = (limit: number): string => (Number.isFinite(limit) ? `± ${ohmsText(limit)}` : '–');

export type BenchChannel = BenchSensorView['channels'][number];

/** A value of a channel in its unit. */
export const valueText = (value: number | null, { unit, decimals }: BenchChannel): string =>
  value === null ? 'no value' : `${formatValue(value, decimals)} ${unit}`;

/** What a reading showed, in words. */
export function readingText(
  measured: Measured,
  shows: number | null,
  typed: string,
  channel: BenchChannel,
): string {
  switch (measured.kind) {
    case 'as-found':
    case 'after':
    case 'reference':
      return valueText(shows, channel);
    case 'ohms':
    case 'zero':
      return shows === null ? 'over every range' : ohmsText(shows);
    case 'placed':
      return mediumWords[measured.medium!].name.toLowerCase();
    case 'counts':
      return `${shows ?? 0} of ${measured.u}`;
    default:
      return shows === null ? 'over the range' : measured.range ? shownText(shows, measured.range) : typed;
  }
}
