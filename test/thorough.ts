/**
 * How often a test of chance is to be run: as often as its promise says with THOROUGH=1 in the environment (before a
 * release), less often in between, so that the whole does not take longer than anybody waits for.
 */
export const thorough = (promised: number, daily: number): number =>
  process.env.THOROUGH === '1' ? promised : daily;
