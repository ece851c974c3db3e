import type { BenchSensorView } from '@/contract/bench';
import type { Measurement } from '@/core/circuit/measurement';
import type { BenchReading, BenchSetup } from '@/core/circuit/session';
import {
  explanationText,
  faultWords,
  gainText,
  measurementText,
  observationText,
  ohmsText,
  placeText,
} from '@/core/circuit/words';
import type { Weighed } from '@/core/circuit/diagnose';
import type { MeterRange } from '@/core/circuit/meter';
import { mostTelling } from '@/core/circuit/telling';
import {
  byMeter,
  contradictedIn,
  measuredElements,
  nominalOf,
  toldApart,
  verdictOf,
} from '@/core/circuit/verdict';

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
  /** What a known resistor says of the meter, on that position of the dial only. */
  readonly gains: readonly string[];
  /** Readings of ohms that the others contradict. */
  readonly contradictions: readonly string[];
  readonly ranked: readonly RankedView[];
  readonly byMeter: { readonly value: number; readonly u: number } | null;
  /** The most telling of what can still be measured, and how many bit it is expected to bring. */
  readonly telling: { readonly says: string; readonly bits: number } | null;
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
  const { elements, gains } = measuredElements(verdict);
  const [telling] = mostTelling(rig, weighed, candidates);
  return {
    byMeter: byMeter(verdict),
    elements: elements.map(({ id, ohms, u, should }) => ({
      id,
      says: ohmsText(ohms, u),
      should: should === null ? '' : ohmsText(should),
    })),
    gains: gains.map(gainText),
    contradictions: contradictedIn(verdict),
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
