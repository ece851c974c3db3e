import type { SerialSettings } from '@/core/bus/serial';
import type { Dialect } from '@/core/import/dialect';
import type { FileEncoding } from '@/core/import/encoding';
import type { StampZone } from '@/core/import/localTime';
import type { ColumnTarget, ImportPlan } from '@/core/import/plan';
import { stampOrders, type StampOrder } from '@/core/import/stamp';
import type { Field } from '@/core/quality/qualityTest';
import { setTests, testOf, type QualityThresholds } from '@/core/quality/tests';
import { quantityCodes, type QuantityCode } from '@/core/quantity/quantity';
import { isUnit } from '@/core/quantity/unit';
import type { ChannelSettings } from '@/core/settings/channelSettings';
import type { OwnSettings } from '@/core/settings/ownSettings';
import Joi from 'joi';
import {
  listOf,
  must,
  number,
  oneOf,
  orNull,
  shape,
  shapeFrom,
  text,
  textThat,
  unionBy,
  yesNo,
  type Shape,
} from './shape';

/** Pieces that several schemas share, of the wire and of what is stored. */
/** A name that something was given by whoever made it, where there is one. */
export const maybeId = text((s) => s.uuid({ version: 'uuidv7' }));
export const id = must(maybeId);
/** A finite number. */
export const finite = (rule: (n: Joi.NumberSchema) => Joi.NumberSchema = (n) => n): Shape<number> =>
  number((n) =>
    rule(n.unsafe())
      .custom((value: number, helpers) =>
        Number.isFinite(value) && Math.abs(value) < 1e15 ? value : helpers.error('number.finite'),
      )
      .messages({
        'number.finite': '{{#label}} must be a finite number',
        'number.base': '{{#label}} must be a number',
      }),
  );
export const unit = textThat(isUnit);
export const quantity = oneOf<QuantityCode>()(...quantityCodes);
/** When the person's device says it happened; the server notes its own time beside it. */
export const occurredAt = must(text((s) => s.isoDate()));
export const day = occurredAt;
export const words = (least = 0): Shape<string> =>
  text((s) => (least > 0 ? s.trim().min(least).max(2000) : s.trim().max(2000).allow('')));
/** A name of one to so many characters. */
export const name = (most: number) => text((s) => s.trim().min(1).max(most));

export const serialSettings = shape<SerialSettings>({
  baud: must(number((n) => n.valid(1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200))),
  dataBits: must(oneOf<SerialSettings['dataBits']>()(7, 8)),
  parity: must(oneOf<SerialSettings['parity']>()('none', 'even', 'odd')),
  stopBits: must(oneOf<SerialSettings['stopBits']>()(1, 2)),
});

export const channelSettings = shape<ChannelSettings>({
  description: must(name(60)),
  enabled: must(yesNo()),
  quantity: must(quantity),
  unit: must(unit),
  measurementInterval: must(finite()),
  storageInterval: must(finite()),
  adjustIn: must(oneOf<ChannelSettings['adjustIn']>()('device', 'record')),
  reportingInterval: orNull(finite()),
  farLow: orNull(finite()),
  low: orNull(finite()),
  high: orNull(finite()),
  farHigh: orNull(finite()),
  wetAbove: orNull(finite()),
});

export const ownSettings = shape<OwnSettings>({
  stationId: must(name(64)),
  name: must(name(64)),
  activated: must(listOf(name(12), (a) => a.max(32).unique())),
});

export interface InstrumentQuantity {
  readonly quantity: QuantityCode;
  readonly tolerance: number;
  readonly resolution: number;
  readonly low: number;
  readonly high: number;
}
/** What an instrument can measure; tolerance, resolution and range in the base unit. */
export const instrumentQuantity = shape<InstrumentQuantity>({
  quantity: must(quantity),
  tolerance: must(finite((n) => n.greater(0))),
  resolution: must(finite((n) => n.greater(0))),
  low: must(finite()),
  high: must(finite((n) => n.greater(Joi.ref('low')))),
});

const row = number((n) => n.integer().min(0).max(1000));
const dialect = shape<Dialect>({
  delimiter: must(text((s) => s.length(1))),
  newline: must(oneOf<Dialect['newline']>()('\n', '\r\n', '\r')),
  decimal: must(oneOf<Dialect['decimal']>()('.', ',')),
  width: must(number((n) => n.integer().min(2).max(1000))),
  headerRows: must(row),
  nameRow: must(orNull(row)),
  unitRow: must(orNull(row)),
  timeColumns: must(listOf(row)),
});

/** How a record file is read. */
export const importPlan = shape<ImportPlan>({
  encoding: must(oneOf<FileEncoding>()('utf-8', 'utf-16le', 'utf-16be', 'windows-1252')),
  dialect: must(dialect),
  stampOrder: must(oneOf<StampOrder>()(...stampOrders)),
  zone: must(
    unionBy<StampZone>()('kind', {
      fixed: { minutes: must(number()) },
      zone: { name: must(text((s) => s.max(60))) },
      stamp: {},
    }),
  ),
  oldStamps: yesNo(),
  typed: yesNo(),
  missing: must(
    listOf(
      text((s) => s.trim().max(20)),
      (a) => a.max(50),
    ),
  ),
  columns: must(
    listOf(
      shape<ColumnTarget>({
        column: must(row),
        unit: must(unit),
        channel: must(
          unionBy<ColumnTarget['channel']>()('kind', {
            existing: { id, quantity: must(quantity) },
            new: { quantity: must(quantity), zoneName: must(text((s) => s.trim().max(60).allow(''))) },
          }),
        ),
      }),
      (a) => a.max(64),
    ),
  ),
});

/** Twelve values from January on; null for a month that has none. */
const months = listOf(orNull(finite()), (a) => a.length(12));

/** What a channel's quality tests go by: a field for each test, and in it one for each of its limits. */
export const qualityThresholds = shapeFrom<QualityThresholds>(
  Object.fromEntries(
    setTests.map((test) => [
      test,
      must(
        orNull(
          shapeFrom(
            Object.fromEntries(
              Object.entries<Field>(testOf(test).fields).map(([field, { is }]) => [
                field,
                is === 'months' ? must(months) : must(finite()),
              ]),
            ),
          ),
        ),
      ),
    ]),
  ),
);
