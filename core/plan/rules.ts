import type { PlanRule } from './rule';
import * as chain from './rules/chain';
import * as earth from './rules/earth';
import * as i2c from './rules/i2c';
import * as placing from './rules/placing';
import * as rs485 from './rules/rs485';
import * as sdi12 from './rules/sdi12';
import * as signals from './rules/signals';
import * as supply from './rules/supply';
import * as terminals from './rules/terminals';

const all = [
  earth.mainsLogic,
  terminals.profileMissing,
  terminals.terminalMissing,
  terminals.leadUnfit,
  terminals.terminalShared,
  terminals.leadOpen,
  terminals.inputsTaken,
  terminals.spliceOpen,
  terminals.plugElsewhere,
  terminals.hostNeeded,
  terminals.hostFull,
  terminals.excluded,
  terminals.channelsExceeded,
  terminals.outputUnmapped,
  signals.signalRange,
  signals.logicRange,
  signals.shunt,
  signals.loopVoltage,
  signals.excitationMissing,
  signals.excitationHigh,
  signals.differential,
  signals.sourceResistance,
  signals.resolution,
  signals.leadError,
  signals.clampScale,
  supply.loggerSupply,
  supply.supplyLow,
  supply.supplyHigh,
  supply.supplyCurrent,
  supply.sourceCurrent,
  supply.autonomy,
  supply.solar,
  earth.secondEarth,
  earth.openShield,
  earth.differentEarths,
  rs485.busId,
  rs485.parameters,
  rs485.unitLoads,
  rs485.rs485Length,
  rs485.termination,
  rs485.biasing,
  sdi12.sdi12Address,
  sdi12.sdi12Length,
  i2c.i2cAddress,
  i2c.i2cPullUps,
  i2c.i2cLength,
  chain.chainSystem,
  chain.chainStrand,
  chain.chainUnit,
  chain.chainLength,
  rs485.busTime,
  placing.rainResolution,
  placing.pulseInput,
  placing.height,
  placing.tooNear,
  placing.tilted,
  placing.redundancy,
  placing.memory,
  placing.leadsAlike,
] as const;

/** Every rule of the plan check. A new one is an object in `rules/`, a line here, and its two tests. */
export const planRules: readonly PlanRule[] = all;
export type PlanRuleId = (typeof all)[number]['id'];
