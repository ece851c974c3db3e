import type { ExchangeFault } from '@/core/bus/faultAdvice';
import { loggerWays, type LoggerWay } from '@/core/device/adjustmentWay';
import type { ChannelInput, Measure } from '@/core/device/channelInput';
import type { QuantityCode } from '@/core/quantity/quantity';
import {
  settingFields,
  type ChannelSettings,
  type SettingDifference,
  type DifferingField,
} from '@/core/settings/channelSettings';
import { conversion, registerField } from '@/schema/deviceProfile';
import { channelSettings, quantity } from '@/schema/pieces';
import { listOf, must, number, oneOf, orNull, record, shape, text, unionBy, yesNo } from '@/schema/shape';
import { stored, type Stored } from './stored';

/** What a device action was about to do and what came of it, by its kind. */
const anyNumber = must(number((n) => n.unsafe()));
const says = must(text());

/** Any action's, for what does not care about its kind: as it is, its version with it, for the parser of its kind. */
export const storedAction: Stored<Readonly<Record<string, unknown>>> = {
  what: 'what a device was to do, or did',
  version: 1,
  read: (raw) => raw as Readonly<Record<string, unknown>>,
  write: (value) => value,
};

export interface SettingIntent {
  readonly revisionId: string;
  readonly number: number;
  readonly settings: ChannelSettings;
  readonly source: ChannelInput | null;
  readonly says: string;
}
const steps = { conversion: must(conversion) };
const place = { terminal: must(text()), ...steps };
const source = unionBy<ChannelInput>()('kind', {
  'modbus-rtu': { busId: anyNumber, field: must(registerField), ...steps },
  'sdi-12': { ...place, address: must(text()), command: must(text()), index: anyNumber },
  chain: { ...place, unit: must(text()), slot: anyNumber },
  i2c: { ...place, address: anyNumber, register: anyNumber, signed: must(yesNo()) },
  clocked: { ...place, slot: anyNumber },
  analog: {
    ...place,
    measures: must(oneOf<Measure>()('V', 'mA', 'ratio', 'Ω')),
    against: must(orNull(text())),
    excitation: must(orNull(text())),
  },
  pulse: place,
});
export const settingIntent = stored(
  'settings to be written',
  shape<SettingIntent>({
    revisionId: must(text()),
    number: anyNumber,
    settings: must(channelSettings),
    source: must(orNull(source)),
    says,
  }),
  // It named a register and left its form to the catalogue of its day.
  [(old) => ({ ...old, source: null })],
);

export interface SettingOutcome {
  readonly readBack: Readonly<Record<string, unknown>>;
  readonly differences: readonly SettingDifference[];
}
export const settingOutcome = stored(
  'settings as written',
  shape<SettingOutcome>({
    readBack: must(record()),
    differences: must(
      listOf(
        shape<SettingDifference>({
          field: must(oneOf<DifferingField>()(...settingFields, 'input')),
          wanted: must(text((s) => s.allow(''))),
          found: must(text((s) => s.allow(''))),
        }),
      ),
    ),
  }),
);

/** An adjustment as it was meant when the device was asked. */
export interface AdjustmentDraft {
  readonly stationId: string;
  readonly id: string;
  readonly checkId: string;
  readonly channelId: string;
  readonly installationId: string;
  readonly place: 'device' | 'record';
  readonly round: number;
  readonly mode: LoggerWay;
  readonly entered: number;
  readonly previous: number;
  readonly resulting: number;
  readonly readAtEntry: number;
  readonly occurredAt: string;
  /** What was asked for. */
  readonly by: number;
  /** The adjustment it takes back; null or left out for none. */
  readonly undoes?: string | null;
  /** Why it goes beyond the guard; null or left out where it does not. */
  readonly guardReason?: string | null;
}
export interface OffsetIntent {
  readonly number: number;
  readonly draft: AdjustmentDraft;
  readonly says: string;
}
export const offsetIntent = stored(
  'offset to be written',
  shape<OffsetIntent>({
    number: anyNumber,
    draft: must(
      shape<AdjustmentDraft>({
        stationId: must(text()),
        id: must(text()),
        checkId: must(text()),
        channelId: must(text()),
        installationId: must(text()),
        place: must(oneOf<AdjustmentDraft['place']>()('device', 'record')),
        round: anyNumber,
        mode: must(oneOf<LoggerWay>()(...loggerWays)),
        entered: anyNumber,
        previous: anyNumber,
        resulting: anyNumber,
        readAtEntry: anyNumber,
        occurredAt: must(text()),
        by: anyNumber,
        undoes: orNull(text()),
        guardReason: orNull(text()),
      }),
    ),
    says,
  }),
);

export interface OffsetOutcome {
  /** What the logger held afterwards, base unit. */
  readonly held: number;
}
export const offsetOutcome = stored('offset as written', shape<OffsetOutcome>({ held: anyNumber }));

export interface ClockIntent {
  /** Logger − true time before, s, and the run it was in. */
  readonly difference: number;
  readonly run: number;
  readonly says: string;
}
export const clockIntent = stored(
  'clock to be set',
  shape<ClockIntent>({ difference: anyNumber, run: anyNumber, says }),
);

/** A clock as it was read. */
export interface ClockReading {
  /** Logger − true time, s. */
  readonly difference: number;
  readonly uncertainty: number;
  /** Which run of its clock the logger is in. */
  readonly run: number;
  /** What it showed, and when, ms. */
  readonly loggerTime: number;
  readonly at: number;
  /** Beyond what is left alone. */
  readonly off: boolean;
  readonly sum: string;
}
export const clockOutcome = stored(
  'clock as set',
  shape<ClockReading>({
    difference: anyNumber,
    uncertainty: anyNumber,
    run: anyNumber,
    loggerTime: anyNumber,
    at: anyNumber,
    off: must(yesNo()),
    sum: must(text()),
  }),
);

export interface TalkOutcome {
  readonly fault: ExchangeFault | null;
  readonly detail: string;
  readonly frames: readonly {
    readonly direction: 'sent' | 'received' | 'too-late';
    readonly hex: string;
    readonly after: number;
  }[];
  readonly decoded: readonly {
    /** Key of the sensor's output. */
    readonly output: string;
    readonly quantity: QuantityCode;
    /** Of what is asked by register; null for what the logger measures. */
    readonly register: number | null;
    /** The number in the registers; null where it stands for no value. */
    readonly raw: number | null;
    readonly value: number | null;
  }[];
}
export const talkOutcome = stored(
  'talk with a sensor',
  shape<TalkOutcome>({
    fault: must(
      orNull(
        oneOf<ExchangeFault>()(
          'no-connection',
          'time-out',
          'half-frame',
          'crc',
          'garbage',
          'foreign',
          'exception',
          'lease',
          'refused-address',
        ),
      ),
    ),
    detail: must(text((s) => s.allow(''))),
    frames: must(
      listOf(
        shape<TalkOutcome['frames'][number]>({
          direction: must(
            oneOf<TalkOutcome['frames'][number]['direction']>()('sent', 'received', 'too-late'),
          ),
          hex: must(text((s) => s.allow(''))),
          after: anyNumber,
        }),
      ),
    ),
    decoded: must(
      listOf(
        shape<TalkOutcome['decoded'][number]>({
          output: must(text()),
          quantity: must(quantity),
          register: must(orNull(number((n) => n.unsafe()))),
          raw: must(orNull(number((n) => n.unsafe()))),
          value: must(orNull(number((n) => n.unsafe()))),
        }),
      ),
    ),
  }),
  [
    // Outputs were known by their quantity.
    (old) => ({
      ...old,
      decoded: (old.decoded as { quantity: string }[]).map((d) => ({ ...d, output: d.quantity })),
    }),
  ],
);
