import { readSeries } from '@/db/bulk';
import type { Database } from '@/db/database';

/** So many stored readings are held at once, so that memory does not grow with the record. */
const pieceLength = 50_000;

type Passed = (at: number, value: number) => void;

/**
 * What stands in the record of one channel, read ahead of a file that comes in stamp order: every stored
 * reading is passed once. Read over a connection of its own, since the import's is busy storing; what the
 * import itself stored is not seen, and the station's lock keeps everyone else out.
 */
export class StoredAhead {
  /** Stamps in ms, as the file's are. */
  private times: Float64Array = new Float64Array(0);
  private values: Float64Array = new Float64Array(0);
  private runs: Int16Array = new Int16Array(0);
  private next = 0;
  /** Everything before this stamp has been read; null before the first. */
  private readUntil: number | null;

  /** @param empty nothing is stored: a channel just made */
  constructor(
    private readonly db: Database,
    private readonly stationKey: number,
    private readonly channelKey: number,
    empty: boolean,
  ) {
    this.readUntil = empty ? Infinity : null;
  }

  /** Whether `pass` may be called for this stamp: otherwise `readTo` first. */
  covers(at: number): boolean {
    return this.readUntil !== null && at < this.readUntil;
  }

  /** Reads until the stamp is covered; the first one ever asked for is where reading begins. */
  async readTo(at: number, passed: Passed): Promise<void> {
    while (!this.covers(at)) {
      const from = this.readUntil ?? at;
      this.passBefore(from, passed);
      const { times, values, runs } = await this.db.transact((tx) =>
        readSeries(tx, this.stationKey, this.channelKey, from, Infinity, pieceLength),
      );
      this.times = times.map((t) => Math.round(t * 1000));
      this.values = values;
      this.runs = runs;
      this.next = 0;
      this.readUntil = times.length < pieceLength ? Infinity : this.times.at(-1)! + 1;
    }
  }

  /** Passes what is stored up to a stamp; returns the value stored at it in a clock run, or null. */
  pass(at: number, clockRun: number, passed: Passed): number | null {
    this.passBefore(at, passed);
    let found: number | null = null;
    for (; this.times[this.next] === at; this.next++) {
      passed(at, this.values[this.next]!);
      if (this.runs[this.next] === clockRun) found = this.values[this.next]!;
    }
    return found;
  }

  private passBefore(at: number, passed: Passed): void {
    for (; this.next < this.times.length && this.times[this.next]! < at; this.next++)
      passed(this.times[this.next]!, this.values[this.next]!);
  }
}
