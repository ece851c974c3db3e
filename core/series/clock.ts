import { finite, notNegative } from '../valid';

/** One comparison of a logger's clock with ours: all instants in ms since epoch. */
export interface ClockExchange {
  readonly asked: number;
  readonly logger: number;
  readonly answered: number;
}

export interface ClockDifference {
  /** Logger − true time, s; positive: the logger is fast. */
  readonly difference: number;
  /** Half the round trip, plus half the clock's own step, s. */
  readonly uncertainty: number;
}

/**
 * The logger's clock against ours, taking the middle of the exchange as the instant of its answer.
 * After the clock offset of RFC 5905 (NTPv4), section 8, with one stamp on the logger's side.
 * `step` is the resolution of the logger's stamp, s. RangeError when the answer precedes the question.
 */
export function clockDifference(exchange: ClockExchange, step: number): ClockDifference {
  const { asked, logger, answered } = exchange;
  finite('the logger’s time', logger);
  notNegative('step', step);
  finite('the time of the exchange', asked + answered);
  if (answered < asked) throw new RangeError('the answer precedes the question');
  // A stamp cut to whole steps is on average half a step old.
  const difference = (logger - (asked + answered) / 2) / 1000 + step / 2;
  return { difference, uncertainty: (answered - asked) / 2000 + step / 2 };
}

/** Clock differences up to this are left alone, s. Our own choice: half the shortest usual interval. */
export const clockTolerance = 30;
