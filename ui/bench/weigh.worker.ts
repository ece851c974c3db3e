import type { BenchSensorView } from '@/contract/bench';
import type { Measurement } from '@/core/circuit/measurement';
import type { BenchReading, BenchSetup } from '@/core/circuit/session';
import {
  explanationText,
  faultWords,
  measurementText,
  observationText,
  ohmsText,
  placeText,
} from '@/core/circuit/words';
import type { Weighed } from '@/core/circuit/diagnose';
import type { MeterRange } from '@/core/circuit/meter';
import { estimateCircuit } from '@/core/circuit/estimate';
import { leadsOff } from '@/core/circuit/rig';
import { mostTelling } from '@/core/circuit/telling';
import { byMeter, nominalOf, toldApart, verdictOf, type Verdict } from '@/core/circuit/verdict';

/** What is weighed, in a thread of its own: dozens of explanations, each moved to where it explains most. */
export interface WeighOrder {
  readonly profile: BenchSensorView['profile'];
  readonly setup: BenchSetup;
  readonly readings: readonly BenchReading[];
  /** What can still be measured. */
  readonly candidates: readonly Measurement[];
  readonly meter: readonly MeterRange[];
  readonly unit: string;
}
/** Explanations that nothing within reach tells apart. */
export interface RankedView {
  /** Of the likeliest of them. */
  readonly id: string;
  readonly says: string;
  readonly next: string;
  /** Where it sits: "leads", "the meter". */
  readonly where: string;
  /** Of all of them together. */
  readonly likelihood: number;
  readonly members: readonly { readonly id: string; readonly says: string; readonly likelihood: number }[];
  readonly sums: readonly {
    readonly what: string;
    readonly read: string;
    readonly expected: string;
    readonly off: number;
  }[];
}
/** An element as the readings have it. */
export interface ElementView {
  readonly id: string;
  readonly says: string;
  readonly should: string;
}
export interface Weighing {
  readonly elements: readonly ElementView[];
  readonly ranked: readonly RankedView[];
  readonly byMeter: { readonly value: number; readonly u: number } | null;
  /** The most telling of what can still be measured, and how many bit it is expected to bring. */
  readonly telling: { readonly says: string; readonly bits: number } | null;
}

/** Each element that the readings tell, by least squares over all of them. */
function elementsOf({ rig, observations, weighed }: Verdict): ElementView[] {
  const readings = observations.flatMap(({ of, shows }) =>
    of.kind === 'ohms' && of.closed !== false && shows !== null && shows > 0 ? [{ ...of, ohms: shows }] : [],
  );
  const value = weighed.find((w) => w.explanation.kind === 'none')?.fit.unknowns[0]?.value;
  if (readings.length === 0 || value === undefined) return [];
  const [low, high] = rig.range;
  const drawn = leadsOff(rig.at(Math.min(high, Math.max(low, value))));
  // A lead is what it reads, not what its length gives: it may be the one at fault.
  const circuit = {
    ...drawn,
    elements: drawn.elements.map((e) => (e.kind === 'lead' ? { ...e, tolerance: 0 } : e)),
  };
  return estimateCircuit(circuit, readings).elements.flatMap(({ id, ohms, u }) => {
    const its = circuit.elements.find((e) => e.id === id)!;
    // What the readings do not tell keeps what was believed of it.
    return u > 0.3 * ohms || (its.kind === 'fixed' && its.hop === 'input' && u >= (its.tolerance * ohms) / 2)
      ? []
      : [{ id, says: ohmsText(ohms, u), should: its.kind === 'sensing' ? '' : ohmsText(its.ohms) }];
  });
}

/** So many explanations are shown. */
const most = 6;
/** A measurement that brings less is not worth the clips. */
const leastBits = 0.1;

function weigh({ profile, setup, readings, candidates, meter, unit }: WeighOrder): Weighing {
  const verdict = verdictOf(profile, setup, readings);
  const { rig, observations, weighed } = verdict;
  const nominal = nominalOf(rig);
  const { groups } = toldApart(verdict, meter);
  const [telling] = mostTelling(rig, weighed, candidates);
  return {
    byMeter: byMeter(verdict),
    elements: elementsOf(verdict),
    telling:
      telling && telling.bits > leastBits ? { says: measurementText(telling.of), bits: telling.bits } : null,
    ranked: groups.slice(0, most).map((group) => {
      const [first] = group as [Weighed, ...Weighed[]];
      const { kind, id } = first.explanation;
      return {
        id,
        where: placeText(first.explanation),
        says: explanationText(first, nominal),
        next: faultWords[kind].next,
        likelihood: group.reduce((sum, w) => sum + w.likelihood, 0),
        members: group.map((w) => ({
          id: w.explanation.id,
          says: explanationText(w, nominal),
          likelihood: w.likelihood,
        })),
        sums: observations.map((o, i) => ({
          what: measurementText(o.of),
          read: observationText(o, unit),
          expected: observationText(
            { of: o.of, shows: Number.isFinite(first.fit.expected[i]!) ? first.fit.expected[i]! : null },
            unit,
          ),
          off: first.fit.residuals[i]!,
        })),
      };
    }),
  };
}

self.addEventListener('message', (event: MessageEvent<WeighOrder>) => {
  self.postMessage(weigh(event.data));
});
