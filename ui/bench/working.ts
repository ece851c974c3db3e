import type { BenchSensorView, BenchSessionView, MeterView } from '@/contract/bench';
import type { BenchPlan } from '@/core/circuit/steps';
import type { BenchChannel } from './texts';
import type { SessionActs } from './useSession';

/** What every step of a measurement works with. */
export interface Working {
  readonly stationId: string;
  readonly sensor: BenchSensorView;
  readonly channel: BenchChannel;
  readonly session: BenchSessionView;
  readonly meter: MeterView;
  readonly plan: BenchPlan;
  readonly acts: SessionActs;
}
