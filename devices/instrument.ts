import Joi from 'joi';
import type { DeviceAddress } from './address';
import { askJson } from './httpLogger';

/** What a linked reference instrument shows, by quantity, base units. */
export const readInstrument = (at: DeviceAddress, path: string): Promise<Record<string, number>> =>
  askJson(at, Joi.object().pattern(Joi.string(), Joi.number()), 'GET', path);
