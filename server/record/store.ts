import type { Transaction } from 'sequelize';
import type { QuantityCode } from '@/core/quantity/quantity';
import { rollupBuilder, widerRollups } from '@/core/series/rollup';
import {
  openReadingCopy,
  openStagingCopy,
  sameValue,
  settleStaging,
  type BulkWriter,
  type Conflict,
} from '@/db/bulk';
import type { Database } from '@/db/database';
import { ensurePartitions } from '@/db/record';
import { refreshRollups, storeRollups } from '@/db/rollup';
import type { Context } from '../context';
import { testRecord } from '../quality/testRecord';
import { askLook } from '../watch/askLook';
import { StoredAhead } from './storedAhead';

/** So often a source may fall out of stamp order and come back to it; beyond, it stays with the staging table. */
const mostSwitches = 8;

/** A channel that readings go into, and how far they have come. */
export interface StoreTarget {
  readonly id: string;
  readonly key: number;
  readonly quantity: QuantityCode;
  /** Storage interval, s, where it is known. */
  readonly interval: number | null;
  readonly hours: ReturnType<typeof rollupBuilder>;
  /** What stands in the record already, to meet what comes as it comes. */
  readonly ahead: StoredAhead;
  /** Stamps of the stretch that was met in order, ms: `hours` holds all that stands between them, stored or new. */
  first: number;
  last: number;
  /** A reading in order is stamped after this, ms. */
  beyond: number;
  /** Stamps of what was staged, ms. */
  stagedFrom: number;
  stagedUntil: number;
}

/** @param empty nothing is stored yet: a channel just made, or one just cleared */
export const storeTarget = (
  db: Database,
  stationKey: number,
  channel: { id: string; key: number; quantity: QuantityCode },
  interval: number | null,
  empty: boolean,
): StoreTarget => ({
  id: channel.id,
  key: channel.key,
  quantity: channel.quantity,
  interval,
  hours: rollupBuilder(3600),
  ahead: new StoredAhead(db, stationKey, channel.key, empty),
  first: Infinity,
  last: -Infinity,
  beyond: -Infinity,
  stagedFrom: Infinity,
  stagedUntil: -Infinity,
});

/** What became of readings that were stored. */
export interface Met {
  readonly stored: number;
  readonly known: number;
  readonly conflicting: number;
}

/** Stamps of all that came, ms; null when nothing did. */
export const spanOf = (targets: readonly StoreTarget[]): { from: number; until: number } | null => {
  const from = Math.min(...targets.flatMap((t) => [t.first, t.stagedFrom]));
  const until = Math.max(...targets.flatMap((t) => [t.last, t.stagedUntil]));
  return from <= until ? { from, until } : null;
};

interface Place {
  readonly stationId: string;
  readonly stationKey: number;
  /** The key of the import the readings come with; 0 for their logger. */
  readonly source: number;
}
interface Conflicts {
  add(conflict: Conflict): void;
  /** How many more are kept one by one. */
  room(): number;
}

/**
 * The one way into the record, for files, loggers and formulas alike: readings are compared with what
 * stands there, stored if they are new, never over another; then rolled up and tested. In stamp order
 * they go straight into the record beside what is stored; otherwise over a staging table. All of it in
 * one transaction of the caller's, under the station's lock.
 */
export class RecordStore {
  private writer: BulkWriter | null = null;
  private mode: 'direct' | 'staging' = 'direct';
  private switches = 0;
  /** Stamps between which years have their partition, ms. */
  private yearsFrom = Infinity;
  private yearsUntil = -Infinity;
  private readonly targets = new Set<StoreTarget>();
  private met = { stored: 0, known: 0, conflicting: 0 };

  constructor(
    private readonly ctx: Context,
    private readonly tx: Transaction,
    private readonly place: Place,
    private readonly conflicts: Conflicts = { add: () => {}, room: () => 0 },
  ) {}

  /**
   * Takes one reading (stamp in ms, base unit). Mostly at once; a promise where the database has to be
   * asked first, to be awaited before the next one.
   */
  put(t: StoreTarget, at: number, run: number, value: number, line: number): Promise<void> | undefined {
    const direct = this.mode === 'direct' && at > t.beyond;
    if (
      this.writer &&
      at >= this.yearsFrom &&
      at < this.yearsUntil &&
      (direct ? t.ahead.covers(at) : this.mode === 'staging')
    ) {
      this.take(t, at, run, value, line);
      return undefined;
    }
    return this.prepare(t, at, direct).then(() => this.take(t, at, run, value, line));
  }

  private async prepare(t: StoreTarget, at: number, direct: boolean): Promise<void> {
    if (this.mode === 'direct' && !direct) {
      await this.endWriter();
      this.mode = 'staging';
    }
    if (direct && !t.ahead.covers(at)) await t.ahead.readTo(at, t.hours.add);
    if (at < this.yearsFrom || at >= this.yearsUntil) await this.makeYear(at);
    this.writer ??= direct
      ? openReadingCopy(this.tx, this.place.stationKey, this.place.source)
      : await openStagingCopy(this.tx);
  }

  private take(t: StoreTarget, at: number, run: number, value: number, line: number): void {
    if (this.mode === 'staging') {
      if (t.stagedFrom === Infinity) this.targets.add(t);
      this.writer!.push(t.key, at, run, value, line);
      t.stagedFrom = Math.min(t.stagedFrom, at);
      t.stagedUntil = Math.max(t.stagedUntil, at);
      return;
    }
    const stored = t.ahead.pass(at, run, t.hours.add);
    if (t.first === Infinity) {
      t.first = at;
      this.targets.add(t);
    }
    t.last = t.beyond = at;
    if (stored === null) {
      this.writer!.push(t.key, at, run, value, line);
      t.hours.add(at, value);
      this.met.stored++;
    } else if (sameValue(stored, value)) this.met.known++;
    else {
      this.met.conflicting++;
      this.conflicts.add({ line, at: new Date(at), value, stored });
    }
  }

  /** Sends what has gathered; at the end of each piece of a source. */
  async flush(): Promise<void> {
    await this.writer?.flush();
    // What comes after everything that was staged may be in order again.
    if (this.mode !== 'staging' || this.switches >= mostSwitches) return;
    await this.endWriter();
    this.switches++;
    this.mode = 'direct';
    for (const t of this.targets) t.beyond = Math.max(t.last, t.stagedUntil);
  }

  /**
   * Ends what is being sent, so that the same connection can be asked something else meanwhile: while a COPY is
   * open, whatever is asked would wait for its end.
   */
  async rest(): Promise<void> {
    await this.flush();
    await this.endWriter();
  }

  private async endWriter(): Promise<void> {
    const { writer } = this;
    this.writer = null;
    await writer?.end();
  }

  /** Breaks off, so that the transaction can be rolled back. */
  async abort(): Promise<void> {
    await this.writer?.abort();
  }

  /** A new year needs its partition, which a COPY already under way would not see. */
  private async makeYear(at: number): Promise<void> {
    if (this.mode === 'direct') await this.endWriter();
    const year = new Date(at).getUTCFullYear();
    const known = this.yearsFrom < this.yearsUntil;
    const [from, until] = known
      ? [Math.min(this.yearsFrom, Date.UTC(year, 0)), Math.max(this.yearsUntil, Date.UTC(year + 1, 0))]
      : [Date.UTC(year, 0), Date.UTC(year + 1, 0)];
    await ensurePartitions(this.ctx.db, from, until - 1);
    [this.yearsFrom, this.yearsUntil] = [from, until];
  }

  /** Ends the storing: what was staged is compared and moved. */
  async settle(): Promise<Met> {
    await this.endWriter();
    const staged = [...this.targets].filter((t) => t.stagedFrom <= t.stagedUntil);
    if (staged.length > 0) {
      const settled = await settleStaging(
        this.tx,
        this.place.stationKey,
        this.place.source,
        {
          channelKeys: staged.map((t) => t.key),
          from: Math.min(...staged.map((t) => t.stagedFrom)),
          until: Math.max(...staged.map((t) => t.stagedUntil)),
        },
        this.conflicts.room(),
      );
      settled.conflicts.forEach((c) => this.conflicts.add(c));
      const { met } = this;
      this.met = {
        stored: met.stored + settled.stored,
        known: met.known + settled.known,
        conflicting: met.conflicting + settled.conflicting,
      };
    }
    return this.met;
  }

  async rollUp(): Promise<void> {
    const { db } = this.ctx;
    const { stationKey } = this.place;
    for (const t of this.targets) {
      const hours = t.hours.buckets;
      if (hours.length > 0) {
        await storeRollups(db, stationKey, t.key, 3600, hours, this.tx);
        await storeRollups(db, stationKey, t.key, 86_400, widerRollups(hours, 86_400), this.tx);
        // Its first and last day may hold readings beyond those that came.
        for (const at of new Set([t.first, t.last]))
          await refreshRollups(db, stationKey, t.key, at, at, this.tx);
      }
      if (t.stagedFrom <= t.stagedUntil)
        await refreshRollups(db, stationKey, t.key, t.stagedFrom, t.stagedUntil, this.tx);
    }
  }

  /** Runs the quality tests over what came, and has it looked at where it is watched. */
  async test(): Promise<void> {
    for (const t of this.targets) {
      const span = spanOf([t]);
      if (span) await testRecord(this.ctx, this.tx, { ...t, ...this.place }, span.from, span.until);
    }
    if (this.targets.size > 0) await askLook(this.ctx.db, this.tx, this.place.stationId);
  }
}
