import type { School } from '@/core/check/budget';
import type { CheckPlan } from '@/core/check/plan';
import type { Projection } from '@/core/check/projection';
import type { Settling } from '@/core/check/settling';
import { finite, quantity, unit } from '@/schema/pieces';
import {
  anything,
  must,
  number,
  oneOf,
  orNull,
  pairOf,
  record,
  shape,
  text,
  unionBy,
  yesNo,
} from '@/schema/shape';
import { stored } from './stored';

const anyNumber = must(number((n) => n.unsafe()));
const range = must(pairOf(finite()));
const temperature = shape<NonNullable<CheckPlan['temperature']>>({
  channelNumber: anyNumber,
  unit: must(unit),
  sensorTolerance: anyNumber,
  referenceTolerance: anyNumber,
  referenceRange: range,
  direct: must(yesNo()),
});
export const storedCheckPlan = stored(
  'plan of a check',
  shape<CheckPlan>({
    quantity: must(quantity),
    unit: must(unit),
    zoneName: must(text()),
    repeats: anyNumber,
    school: must(oneOf<School>()('sum', 'gum')),
    settleWindow: anyNumber,
    settleBand: anyNumber,
    guard: anyNumber,
    sensorTolerance: anyNumber,
    sensorResolution: anyNumber,
    sensorResponse: anyNumber,
    pools: must(yesNo()),
    referenceTolerance: anyNumber,
    referenceResolution: anyNumber,
    referenceRange: range,
    temperature: must(orNull(temperature)),
    outOfDateReason: must(orNull(text((s) => s.allow('')))),
    adjustIn: must(oneOf<CheckPlan['adjustIn']>()('device', 'record')),
    decimals: anyNumber,
  }),
  [
    // Before, a check was judged by its own repeats, and humidity was always brought to one temperature.
    ({ temperature: its, ...plan }) => ({
      ...plan,
      sensorResponse: 0,
      pools: false,
      temperature: its && { ...(its as object), direct: false },
    }),
  ],
);

/** What a check came to, as far as it is read again; the whole budget is kept beside it. */
export interface CheckResult {
  readonly budget: { readonly meanDifference: number } | null;
  readonly limit: number | null;
  readonly asFound: number | null;
  readonly asLeft: number | null;
  readonly verdict?: unknown;
}
const orNone = must(orNull(number((n) => n.unsafe())));
export const storedCheckResult = stored(
  'result of a check',
  shape<CheckResult>({
    budget: must(orNull(shape<NonNullable<CheckResult['budget']>>({ meanDifference: anyNumber }))),
    limit: orNone,
    asFound: orNone,
    asLeft: orNone,
    verdict: anything(),
  }),
);

const moving = { movement: anyNumber, band: anyNumber };
export const storedSettling = stored(
  'settling of a reading',
  unionBy<Settling>()('state', {
    watching: { watched: anyNumber, window: anyNumber },
    settled: { value: anyNumber, ...moving },
    moving: {
      ...moving,
      projected: must(
        orNull(shape<Projection>({ final: anyNumber, uncertainty: anyNumber, tau: anyNumber })),
      ),
    },
    restless: { scatter: anyNumber, ...moving },
    said: { window: anyNumber },
  }),
);
/** What was typed, kept for whoever asks how a value came about. */
export const storedEntered = stored('what was entered', record());
