import type { School } from '@/core/check/budget';
import type { CheckPlan, PlannedCompanion, PlannedPoint } from '@/core/check/plan';
import type { ReferenceRest } from '@/core/check/referenceRest';
import type { Projection } from '@/core/check/projection';
import type { Settling } from '@/core/check/settling';
import type { PartInUse } from '@/core/device/part';
import type { Certificate } from '@/core/kit/certificate';
import { procedureCodes } from '@/core/procedure/codes';
import { finite, quantity, unit } from '@/schema/pieces';
import {
  anything,
  listOf,
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
const certificate = must(
  orNull(
    shape<Certificate>({
      points: must(listOf(shape<Certificate['points'][number]>({ shown: anyNumber, correction: anyNumber }))),
      uncertainty: anyNumber,
      drift: anyNumber,
    }),
  ),
);
const companion = shape<PlannedCompanion>({
  key: must(text()),
  channel: must(
    orNull(shape<NonNullable<PlannedCompanion['channel']>>({ number: anyNumber, unit: must(unit) })),
  ),
  tolerance: must(orNull(number((n) => n.unsafe()))),
  range,
  certificate,
});
const values = must(
  listOf(
    shape<PlannedPoint['values'][number]>({
      temperature: must(orNull(number((n) => n.unsafe()))),
      value: anyNumber,
    }),
  ),
);
/** What the label of a standard says. */
export const storedLabel = stored(
  'label of a standard',
  shape<{ readonly values: PlannedPoint['values'] }>({ values }),
);
const point = shape<PlannedPoint>({
  key: must(text()),
  name: must(text()),
  values,
  tolerance: anyNumber,
  sensorTolerance: anyNumber,
  standardId: must(orNull(text())),
});
export const storedCheckPlan = stored(
  'plan of a check',
  shape<CheckPlan>({
    procedure: must(oneOf<CheckPlan['procedure']>()(...procedureCodes)),
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
    sensorDeadTime: anyNumber,
    part: must(
      orNull(
        shape<PartInUse>({
          name: must(text()),
          since: anyNumber,
          goodFor: must(orNull(number((n) => n.unsafe()))),
        }),
      ),
    ),
    pools: must(yesNo()),
    referenceTolerance: anyNumber,
    referenceResolution: anyNumber,
    referenceRange: range,
    referenceResponse: anyNumber,
    certificate,
    companions: must(listOf(companion)),
    points: must(listOf(point)),
    comparesDirectly: must(yesNo()),
    outOfDateReason: must(orNull(text((s) => s.allow('')))),
    material: must(orNull(text())),
    adjustIn: must(oneOf<CheckPlan['adjustIn']>()('device', 'record')),
    offsets: must(orNull(shape<NonNullable<CheckPlan['offsets']>>({ step: anyNumber, most: anyNumber }))),
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
    // Before, a check was a pair of readings; humidity had two thermometers beside it, and nothing else had anything.
    ({ temperature: its, ...plan }) => {
      const both = its as {
        channelNumber: number;
        unit: string;
        sensorTolerance: number;
        referenceTolerance: number;
        referenceRange: [number, number];
        direct: boolean;
      } | null;
      return {
        ...plan,
        procedure: both ? 'one-air' : 'side-by-side',
        points: [],
        comparesDirectly: both?.direct ?? false,
        companions: both
          ? [
              {
                key: 'sensorTemperature',
                channel: { number: both.channelNumber, unit: both.unit },
                tolerance: both.sensorTolerance,
                range: [-60, 80],
              },
              {
                key: 'referenceTemperature',
                channel: null,
                tolerance: both.referenceTolerance,
                range: both.referenceRange,
              },
            ]
          : [],
      };
    },
    // Before, every device was thought to take every digit.
    (plan) => ({ ...plan, offsets: null }),
    // Before, a reference was as good as its tolerance, and nobody said how long it takes itself.
    (plan) => ({
      ...plan,
      referenceResponse: 0,
      certificate: null,
      material: null,
      companions: (plan.companions as object[]).map((c) => ({ ...c, certificate: null })),
    }),
    // Before, every sensor was thought to answer at once, and nobody asked how old its cap was.
    (plan) => ({ ...plan, sensorDeadTime: 0, part: null }),
  ],
);

/** What a check came to, as far as it is read again; the whole budget is kept beside it. */
export interface CheckResult {
  readonly budget: { readonly meanDifference: number } | null;
  readonly limit: number | null;
  readonly asFound: number | null;
  readonly asLeft: number | null;
  readonly verdict?: unknown;
  /** What cleaning changed, base unit; left out where nothing was cleaned. */
  readonly fouling?: number;
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
    fouling: number((n) => n.unsafe()),
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
    averaged: { window: anyNumber, n: anyNumber, scatter: anyNumber },
  }),
);
export const storedReferenceRest = stored(
  'settling of a reference',
  unionBy<ReferenceRest>()('state', {
    settled: {},
    moving,
    said: {},
    waited: { waited: anyNumber, needed: anyNumber },
    waiting: { waited: anyNumber, needed: anyNumber },
  }),
);
/** What was typed, kept for whoever asks how a value came about. */
export const storedEntered = stored('what was entered', record());
