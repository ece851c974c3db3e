import type { AsFound, ServiceChange } from '@/core/bus/serviceLine';
import type { SerialSettings } from '@/core/bus/serial';
import { causes, type Cause } from '@/core/recovery/cause';
import type { Evidence, Verified } from '@/core/recovery/recovery';
import type { Heard, Results } from '@/core/recovery/steps';
import { serialSettings } from '@/schema/pieces';
import { listOf, must, number, oneOf, orNull, shape, text, unionBy, yesNo } from '@/schema/shape';
import { stored } from './stored';

/** What is kept of talking on a serial line: windows it opened, what was tried, what was to be written. */
const anyNumber = must(number((n) => n.unsafe()));
const words = must(text((s) => s.allow('')));
const ids = must(listOf(number()));

export const storedLayers = stored('off-line windows of a held line', listOf(text()));

const asFound = shape<AsFound>({
  model: words,
  serialNumber: words,
  firmware: words,
  busId: anyNumber,
  serial: must(serialSettings),
  protocol: words,
});
const heard = must(oneOf<Heard>()('answer', 'silence', 'garbled'));
const orNot = <T extends object>(fields: Parameters<typeof shape<T>>[0]) => ({
  result: must(orNull(shape<T>(fields))),
});
const cause = must(oneOf<Cause>()(...(causes as [Cause])));
export const storedEvidence = stored(
  'what was tried on a line',
  unionBy<Evidence>()('step', {
    reach: orNot<Results['reach']>({ reached: must(yesNo()) }),
    ask: orNot<Results['ask']>({ heard }),
    others: orNot<Results['others']>({ answered: anyNumber, asked: anyNumber }),
    speeds: orNot<Results['speeds']>({
      tried: must(listOf(serialSettings)),
      at: must(orNull(serialSettings)),
    }),
    light: orNot<Results['light']>({ light: must(oneOf<'on' | 'off'>()('on', 'off')) }),
    idle: orNot<Results['idle']>({ volts: anyNumber }),
    swap: orNot<Results['swap']>({ heard }),
    supply: orNot<Results['supply']>({ volts: anyNumber }),
    alone: orNot<Results['alone']>({ heard }),
    scan: orNot<Results['scan']>({ found: ids, from: anyNumber, to: anyNumber }),
    whose: orNot<Results['whose']>({ silent: ids }),
    'any-id': orNot<Results['any-id']>({ id: must(orNull(number())) }),
    service: orNot<Results['service']>({ found: must(orNull(asFound)) }),
    mended: { result: must(shape<{ cause: Cause; heard: Heard }>({ cause, heard })) },
    verified: { result: must(shape<Verified>({ shown: anyNumber, channels: anyNumber })) },
  }),
);

/** A write by register: to whom, at which speed and parity (null: as the gateway stands), what. */
export interface BusWrite {
  readonly unit: number;
  readonly serial: SerialSettings | null;
  readonly address: number;
  readonly values: readonly number[];
}
const busWrite = {
  unit: anyNumber,
  serial: must(orNull(serialSettings)),
  address: anyNumber,
  values: ids,
};

export interface BusWriteIntent {
  readonly sessionId: string;
  readonly gatewayAddress: string;
  readonly framing: 'rtu' | 'tcp';
  /** Set in its service protocol before: how it was found, and what is changed. */
  readonly service: {
    readonly serial: SerialSettings;
    readonly back: SerialSettings;
    readonly found: AsFound;
    readonly changes: readonly ServiceChange[];
  } | null;
  /** Nobody may answer here beforehand; null where it does not matter. */
  readonly mustBeFree: number | null;
  readonly writes: readonly BusWrite[];
  /** What has to be read back in the end. */
  readonly check: BusWrite;
  /** Whose ID is another afterwards. */
  readonly moves: { readonly installationId: string; readonly busId: number } | null;
  /** Which part of it was replaced; null or left out for none. */
  readonly part?: PartWrite | null;
  readonly says: string;
}

/** A part that was replaced: its serial number, its coefficients, and those the sensor held before. */
export interface PartWrite {
  readonly installationId: string;
  readonly name: string;
  readonly serial: string;
  readonly coefficients: readonly number[];
  readonly previous: readonly number[] | null;
}
const coefficients = listOf(number((n) => n.unsafe()));
export const storedCoefficients = stored('coefficients of a part', coefficients);
export const busWriteIntent = stored(
  'a write on a line',
  shape<BusWriteIntent>({
    sessionId: words,
    gatewayAddress: words,
    framing: must(oneOf<'rtu' | 'tcp'>()('rtu', 'tcp')),
    service: must(
      orNull(
        shape<NonNullable<BusWriteIntent['service']>>({
          serial: must(serialSettings),
          back: must(serialSettings),
          found: must(asFound),
          changes: must(listOf(shape<ServiceChange>({ field: words, from: words, to: words }))),
        }),
      ),
    ),
    mustBeFree: must(orNull(number())),
    writes: must(listOf(shape<BusWrite>(busWrite))),
    check: must(shape<BusWrite>(busWrite)),
    moves: must(
      orNull(shape<NonNullable<BusWriteIntent['moves']>>({ installationId: words, busId: anyNumber })),
    ),
    part: orNull(
      shape<PartWrite>({
        installationId: words,
        name: words,
        serial: words,
        coefficients: must(coefficients),
        previous: must(orNull(coefficients)),
      }),
    ),
    says: words,
  }),
);

export interface KeptFrame {
  readonly direction: 'sent' | 'received' | 'too-late';
  readonly hex: string;
  readonly after: number;
}
export interface BusOutcome {
  readonly says: string;
  readonly registers: readonly number[];
  readonly frames: readonly KeptFrame[];
}
export const busOutcome = stored(
  'what came of talking on a line',
  shape<BusOutcome>({
    says: words,
    registers: ids,
    frames: must(
      listOf(
        shape<KeptFrame>({
          direction: must(oneOf<KeptFrame['direction']>()('sent', 'received', 'too-late')),
          hex: words,
          after: anyNumber,
        }),
      ),
    ),
  }),
);

/** A logger's polling of a line held for a while, or let go on. */
export interface HoldIntent {
  readonly sessionId: string;
  readonly portId: string;
  /** s; 0 to go on. */
  readonly seconds: number;
  readonly outputsInHand: boolean;
  readonly says: string;
}
export const holdIntent = stored(
  'polling to be held',
  shape<HoldIntent>({
    sessionId: words,
    portId: words,
    seconds: anyNumber,
    outputsInHand: must(yesNo()),
    says: words,
  }),
);

/** One SDI-12 command and its answer; null for silence. */
export interface Sdi12Exchange {
  readonly command: string;
  readonly answer: string | null;
}
export interface Sdi12Outcome {
  readonly says: string;
  readonly values: readonly number[];
  readonly exchanges: readonly Sdi12Exchange[];
}
export const sdi12Outcome = stored(
  'what came of SDI-12 commands',
  shape<Sdi12Outcome>({
    says: words,
    values: must(listOf(number((n) => n.unsafe()))),
    exchanges: must(
      listOf(shape<Sdi12Exchange>({ command: words, answer: must(orNull(text((s) => s.allow('')))) })),
    ),
  }),
);
export interface Sdi12Intent {
  readonly terminal: string;
  readonly from: string;
  readonly to: string;
  /** Whose address it is. */
  readonly installationId: string | null;
  /** Who speaks; left out: the logger. */
  readonly by?: 'logger' | 'adapter';
  readonly says: string;
}
export const sdi12Intent = stored(
  'an SDI-12 address to be changed',
  shape<Sdi12Intent>({
    terminal: words,
    from: words,
    to: words,
    installationId: must(orNull(text())),
    by: oneOf<'logger' | 'adapter'>()('logger', 'adapter'),
    says: words,
  }),
);

/** A unit of a daisy chain as its logger found it. */
export interface FoundUnit {
  readonly unit: string;
  readonly model: string;
  readonly counts: number;
  readonly builtIn: boolean;
}
export interface ChainOutcome {
  readonly says: string;
  readonly units: readonly FoundUnit[];
}
export const chainOutcome = stored(
  'who was found on a chain',
  shape<ChainOutcome>({
    says: words,
    units: must(
      listOf(shape<FoundUnit>({ unit: words, model: words, counts: anyNumber, builtIn: must(yesNo()) })),
    ),
  }),
);
