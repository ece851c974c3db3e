import Joi from 'joi';
import type { ImportPlan } from '@/core/import/plan';
import { stampOrders } from '@/core/import/stamp';
import { id, quantity, unit, words } from './schema';

/** What is said of a record file before it is sent. */
export interface DeclareImport {
  importId: string;
  fileName: string;
  bytes: number;
  signature: string;
  plan: ImportPlan;
  confirmed?: boolean;
}

/** Takes an import out of the record as a whole, or brings it back. */
export interface WithdrawImport {
  operationId: string;
  back: boolean;
  reason: string;
}
export const withdrawImport = Joi.object<WithdrawImport>({
  operationId: id,
  back: Joi.boolean().required(),
  reason: words.min(1).required(),
});

const column = Joi.number().integer().min(0).max(1000);
const plan = Joi.object<ImportPlan>({
  encoding: Joi.string().valid('utf-8', 'utf-16le', 'utf-16be', 'windows-1252').required(),
  dialect: Joi.object({
    delimiter: Joi.string().length(1).required(),
    newline: Joi.string().valid('\n', '\r\n', '\r').required(),
    decimal: Joi.string().valid('.', ',').required(),
    width: Joi.number().integer().min(2).max(1000).required(),
    headerRows: Joi.number().integer().min(0).max(1000).required(),
    nameRow: Joi.number().integer().min(0).allow(null).required(),
    unitRow: Joi.number().integer().min(0).allow(null).required(),
    timeColumns: Joi.array().items(column).required(),
  }).required(),
  stampOrder: Joi.string()
    .valid(...stampOrders)
    .required(),
  zone: Joi.alternatives(
    Joi.object({ kind: Joi.valid('fixed').required(), minutes: Joi.number().required() }),
    Joi.object({ kind: Joi.valid('zone').required(), name: Joi.string().max(60).required() }),
    Joi.object({ kind: Joi.valid('stamp').required() }),
  ).required(),
  oldStamps: Joi.boolean(),
  missing: Joi.array().items(Joi.string().trim().max(20)).max(50).required(),
  columns: Joi.array()
    .max(64)
    .items(
      Joi.object({
        column: column.required(),
        unit: unit.required(),
        channel: Joi.alternatives(
          Joi.object({ kind: Joi.valid('existing').required(), id, quantity: quantity.required() }),
          Joi.object({
            kind: Joi.valid('new').required(),
            quantity: quantity.required(),
            zoneName: Joi.string().trim().max(60).allow('').required(),
          }),
        ).required(),
      }),
    )
    .required(),
});

export const declareImport = Joi.object<DeclareImport>({
  importId: id,
  fileName: Joi.string().trim().min(1).max(200).required(),
  bytes: Joi.number().integer().min(0).required(),
  signature: Joi.string().max(2000).required(),
  plan: plan.required(),
  confirmed: Joi.boolean(),
});
