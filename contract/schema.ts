import Joi from 'joi';
import { quantityCodes } from '@/core/quantity/quantity';
import { isUnit } from '@/core/quantity/unit';

/** Pieces that several request schemas share. */
export const id = Joi.string().uuid({ version: 'uuidv7' }).required();
export const finite = Joi.number()
  .unsafe()
  .custom((value: number, helpers) =>
    Number.isFinite(value) && Math.abs(value) < 1e15 ? value : helpers.error('number.finite'),
  )
  .messages({
    'number.finite': '{{#label}} must be a finite number',
    'number.base': '{{#label}} must be a number',
  });
export const unit = Joi.string().custom((value: string, helpers) =>
  isUnit(value) ? value : helpers.error('any.only'),
);
export const quantity = Joi.string().valid(...quantityCodes);
/** When the person's device says it happened; the server notes its own time beside it. */
export const occurredAt = Joi.string().isoDate().required();
export const words = Joi.string().trim().max(2000);
export const serialSettings = Joi.object({
  baud: Joi.number().valid(1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200).required(),
  dataBits: Joi.number().valid(7, 8).required(),
  parity: Joi.string().valid('none', 'even', 'odd').required(),
  stopBits: Joi.number().valid(1, 2).required(),
});
