import type { QuantityCode } from '../quantity/quantity';
import { bath } from './bath';
import { bearing } from './bearing';
import { clearSky } from './clearSky';
import { procedureCodes, type ProcedureCode } from './codes';
import { movingLevel } from './movingLevel';
import { oneAir } from './oneAir';
import { ovenDrying } from './ovenDrying';
import { pairedWindow } from './pairedWindow';
import { phBuffers } from './phBuffers';
import type { Procedure } from './procedure';
import { rainPour } from './rainPour';
import { sampled } from './sampled';
import { saturatedAir } from './saturatedAir';
import { seaLevelReport } from './seaLevelReport';
import { sideBySide } from './sideBySide';
import {
  conductivityStandard,
  gas,
  icePoint,
  knownPoints,
  nightZero,
  salts,
  turbidityStandards,
} from './standardPoints';

/** The registry. One more is its file, its code, its line here; its row in docs/procedures.md is asked for by a test. */
const procedures: Readonly<Record<ProcedureCode, Procedure>> = {
  'one-air': oneAir,
  'ph-buffers': phBuffers,
  'saturated-air': saturatedAir,
  'turbidity-standards': turbidityStandards,
  'conductivity-standard': conductivityStandard,
  'rain-pour': rainPour,
  sampled,
  'paired-window': pairedWindow,
  'side-by-side': sideBySide,
  bath,
  'ice-point': icePoint,
  salts,
  gas,
  bearing,
  'sea-level-report': seaLevelReport,
  'moving-level': movingLevel,
  'oven-drying': ovenDrying,
  'night-zero': nightZero,
  'clear-sky': clearSky,
  'known-points': knownPoints,
};

export const procedureOf = (code: ProcedureCode): Procedure => procedures[code];

/** By what a quantity can be checked, what suits it best first. */
export const proceduresFor = (quantity: QuantityCode): readonly ProcedureCode[] =>
  procedureCodes.filter((code) => procedures[code].quantities.includes(quantity));
