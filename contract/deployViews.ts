import type { LeaveItem } from '@/core/deploy/beforeYouLeave';
import type { LaunchState } from '@/core/deploy/launch';
import type { StandAlone, StartsBy, WhenFull } from '@/core/device/loggerProfile';
import type { OpenActionView } from './views';

/** What the page of a launched logger shows. */
export interface ExpectedDaysView {
  readonly low: number | null;
  readonly high: number | null;
}

export interface DeploymentView {
  readonly id: string;
  readonly description: string;
  readonly start: StartsBy;
  readonly startAt: string | null;
  readonly whenFull: WhenFull;
  readonly storesBattery: boolean;
  readonly channels: number;
  readonly storeEvery: number;
  readonly expected: {
    readonly memory: ExpectedDaysView;
    readonly battery: ExpectedDaysView;
    readonly ends: ExpectedDaysView;
    readonly sums: readonly string[];
  };
  readonly launchedAt: string;
  readonly initials: string;
  readonly endedAt: string | null;
  readonly hungAt: string | null;
  readonly takenDownAt: string | null;
  /** Its rows in the record, by its channels together; null while none was read out. */
  readonly record: { readonly from: string; readonly until: string; readonly rows: number } | null;
  /** What of it is proposed as not data, or marked so. */
  readonly notData: readonly NotDataView[];
}

export interface NotDataView {
  readonly which: 'bench' | 'drive-home';
  readonly from: string;
  /** Exclusive. */
  readonly until: string;
  readonly by: 'said' | 'record';
  readonly why: string;
  /** Every channel of it is marked so already. */
  readonly marked: boolean;
}

export interface DeployView {
  readonly stationId: string;
  readonly code: string;
  readonly name: string;
  readonly cautions: readonly string[];
  readonly unknownActions: readonly OpenActionView[];
  /** Of its profile; null for a logger that is not launched. */
  readonly logger: {
    readonly name: string;
    readonly serial: string;
    readonly memory: number;
    readonly standAlone: StandAlone;
  } | null;
  readonly channels: readonly {
    readonly channelId: string;
    readonly number: number;
    readonly name: string;
    readonly storeEvery: number;
  }[];
  /** Channels whose settings wait to be written. */
  readonly staged: readonly number[];
  /** Ah it draws in a day at each storage interval, s. */
  readonly draws: readonly { readonly storeEvery: number; readonly ampereHours: number }[];
  /** Days between visits, by the plan. */
  readonly visitEvery: number;
  /** The last launches, newest first. */
  readonly launches: readonly DeploymentView[];
}

/** How the logger stands now, asked for. */
export interface DeployNowView {
  readonly at: string;
  readonly state: LaunchState;
  readonly rows: number;
  readonly firstRow: string | null;
  readonly lastRow: string | null;
  readonly memoryUsed: number;
  readonly batteryVolts: number;
  /** Rows newer than the newest that was read out. */
  readonly unread: boolean;
  readonly leave: readonly LeaveItem[];
}
