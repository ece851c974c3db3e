import type { Verdict } from '@/core/check/verdict';
import type { QuantityCode } from '@/core/quantity/quantity';
import type { Unit } from '@/core/quantity/unit';
import { finite, id, occurredAt, quantity, words } from '@/schema/pieces';
import { must, shape } from '@/schema/shape';
import type { CalibrationView, CrossCheckView } from './instruments';
import type { InstrumentView } from './checkViews';

/** A reference instrument that was found off. */
export interface FoundOffRequest {
  findingId: string;
  quantity: QuantityCode;
  /** What it shows too much, base unit; negative for too little. */
  by: number;
  /** When it was last known to be good. */
  goodUntil: string;
  why: string;
  occurredAt: string;
}
export const foundOffRequest = shape<FoundOffRequest>({
  findingId: id,
  quantity: must(quantity),
  by: must(finite()),
  goodUntil: occurredAt,
  why: must(words(3)),
  occurredAt,
});

export interface TakeBackFinding {
  /** Of the line that takes it back. */
  findingId: string;
  why: string;
}
export const takeBackFinding = shape<TakeBackFinding>({ findingId: id, why: must(words(3)) });

/** A check that the finding touches: what it said, and what it would have said. */
export interface TouchedCheckView {
  readonly checkId: string;
  readonly stationId: string;
  readonly stationCode: string;
  readonly channelName: string;
  readonly openedAt: string;
  readonly outcome: string;
  readonly unit: Unit;
  readonly decimals: number;
  readonly before: TouchedSide;
  readonly after: TouchedSide;
  readonly isChanged: boolean;
  /** What was added in it, base unit; null where nothing was. */
  readonly adjustedBy: number | null;
  /** Whether that lies in the device or over the record; null where nothing was adjusted. */
  readonly adjustedIn: 'device' | 'record' | null;
}
export interface TouchedSide {
  readonly asFound: number | null;
  readonly asLeft: number | null;
  readonly verdict: Verdict['kind'] | null;
  readonly convergence: string | null;
}

export interface FindingOfInstrument {
  readonly id: string;
  readonly quantity: QuantityCode;
  readonly by: number;
  readonly goodUntil: string;
  readonly foundAt: string;
  readonly why: string;
  readonly initials: string;
  readonly isTakenBack: boolean;
}

/** An instrument with what was found of it, newest first. */
export interface InstrumentPage {
  readonly instrument: InstrumentView;
  readonly findings: readonly FindingOfInstrument[];
  readonly calibrations: readonly CalibrationView[];
  readonly crossChecks: readonly CrossCheckView[];
  /** Of the care that holds; null where nobody wrote any down. */
  readonly careId: string | null;
  /** Others of the kit that measure something of the same. */
  readonly others: readonly InstrumentView[];
}
