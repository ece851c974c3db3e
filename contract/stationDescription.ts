import Joi from 'joi';
import type { SerialSettings } from '@/core/bus/serial';
import { finite, serialSettings } from './schema';

/** A station as an administrator describes it in a JSON file: where it is, its logger, its bus port. */
export interface StationDescription {
  site: { name: string; zone: string; note?: string };
  code: string;
  name: string;
  cautions?: string[];
  logger: { model: string; serial: string; address: string; utcOffsetMinutes: number; supplyVoltage: number };
  port: {
    name: string;
    gatewayAddress: string;
    framing?: 'rtu' | 'tcp';
    serial: SerialSettings;
    terminals: { label: string; signal: string }[];
  };
}

const name = Joi.string().trim().min(1).max(80);
const address = Joi.string().pattern(/^\S+:\d+$/);

export const stationDescription = Joi.object<StationDescription>({
  site: Joi.object({ name: name.required(), zone: name.required(), note: Joi.string().allow('') }).required(),
  code: Joi.string()
    .pattern(/^[A-Z0-9-]{2,20}$/)
    .required(),
  name: name.required(),
  cautions: Joi.array().items(Joi.string()).default([]),
  logger: Joi.object({
    model: name.required(),
    serial: name.required(),
    address: address.required(),
    utcOffsetMinutes: Joi.number().integer().min(-840).max(840).required(),
    supplyVoltage: finite.greater(0).max(60).required(),
  }).required(),
  port: Joi.object({
    name: name.required(),
    gatewayAddress: address.required(),
    framing: Joi.string().valid('rtu', 'tcp').default('rtu'),
    serial: serialSettings.required(),
    terminals: Joi.array()
      .min(1)
      .items(
        Joi.object({
          label: name.required(),
          signal: Joi.string().valid('supply+', 'supply−', 'data+', 'data−', 'common', 'shield').required(),
        }),
      )
      .required(),
  }).required(),
});
