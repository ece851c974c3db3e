import { conversionSum, passedOn } from '../device/quickSum';
import { networkOfCircuit, type Circuit } from './circuit';
import { contradictions } from './crossCheck';
import type { OhmsReading } from './estimate';
import { resistanceBetween } from './network';
import type { OwnCircuit } from './own';
import { toldBy } from './told';
import { contradictionText, gainText, ohmsText } from './words';

/** What readings on a circuit of one's own come to, in words. */
export interface OwnMeasured {
  readonly elements: readonly { readonly id: string; readonly says: string; readonly sum: string }[];
  readonly gains: readonly string[];
  readonly contradictions: readonly string[];
  /** Readings between points that nothing joins now. */
  readonly unjoined: number;
}

/** Half the width of a 95 % interval in standard uncertainties. */
const wide = 1.96;

/**
 * @param own the circuit as it is typed
 * @param circuit the same, read
 * @param readings on it, each above 0 Ω
 */
export function ownMeasured(
  own: Pick<OwnCircuit, 'says'>,
  circuit: Circuit,
  readings: readonly OhmsReading[],
): OwnMeasured {
  const network = networkOfCircuit(circuit);
  const joins = ({ from, to }: OhmsReading) => {
    if (!network.numberOf.has(from) || !network.numberOf.has(to)) return false;
    const ohms = resistanceBetween(network, from, to);
    return ohms > 0 && ohms < Infinity;
  };
  const joined = readings.filter(joins);
  const unjoined = readings.length - joined.length;
  if (joined.length === 0) return { elements: [], gains: [], contradictions: [], unjoined };
  const { elements, gains } = toldBy(circuit, joined);
  return {
    elements: elements.map(({ element, ohms, u }) => ({
      id: element.id,
      says: `${ohmsText(ohms, u)}${quantityText(own, element.id, ohms, u)}`,
      sum: against(element.kind === 'sensing' ? null : element, ohms, u),
    })),
    gains: gains.map(gainText),
    contradictions: contradictions(circuit, joined).map((c) => contradictionText(joined[c.reading]!, c)),
    unjoined,
  };
}

function quantityText({ says }: Pick<OwnCircuit, 'says'>, id: string, ohms: number, u: number): string {
  if (says?.element !== id) return '';
  const { of } = conversionSum(says.conversion);
  const value = of(ohms);
  const means = passedOn(of, ohms, wide * u);
  return Number.isFinite(value) && Number.isFinite(means)
    ? `: ${Number(value.toPrecision(4))} ± ${means.toPrecision(2)} ${says.unit}`.trimEnd()
    : ': outside what its conversion holds for';
}

/** Against what was drawn: within its tolerance, or by how much it is off. */
function against(
  drawn: { readonly ohms: number; readonly tolerance: number } | null,
  ohms: number,
  u: number,
): string {
  if (!drawn) return '95 %, least squares over all readings';
  const off = ohms / drawn.ohms - 1;
  const text = `${off < 0 ? '−' : '+'}${Math.abs(100 * off).toPrecision(2)} % of ${ohmsText(drawn.ohms)}`;
  if (drawn.tolerance === 0) return text;
  const stated = `±${Number((100 * drawn.tolerance).toPrecision(3))} %`;
  return Math.abs(off) * drawn.ohms > drawn.tolerance * drawn.ohms + wide * u
    ? `${text}: outside its ${stated}`
    : `${text}: within its ${stated}`;
}
