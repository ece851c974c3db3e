import type { Transaction } from 'sequelize';
import type { ImportResultView } from '@/contract/recordViews';
import { rowCutter } from '@/core/import/rowCutter';
import { holdsTwoStations, rowReader, type RowCount } from '@/core/import/rowReader';
import { isUnlike } from '@/core/import/unlike';
import { formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import { longWork } from '@/db/database';
import type { ImportRow } from '@/db/rows';
import type { Context } from '../context';
import type { Progress } from '../process/operation';
import { badField, Problem } from '../problem';
import { RecordStore, spanOf, type Met } from '../record/store';
import type { StationGraph } from '../station/stationGraph';
import { importEnded } from './declare';
import { issueList } from './issues';
import { lockStation } from '../station/atStation';
import { importLock } from './locks';
import { inTime, requirePace } from './pace';
import { openTargets, type Target } from './target';
import { recordAct } from '../book/recordAct';

/** One import at work: reads, stores, settles, rolls up, tests, concludes. */
export class ImportJob {
  result: ImportResultView | null = null;
  failure: unknown = null;
  /** Whether this job, and no other, holds the import. */
  claimed = false;
  private readonly issues = issueList();
  private count: RowCount = { rows: 0, values: 0, missing: 0, refused: 0 };
  private repeated = 0;
  private targets: Target[] = [];
  private record: RecordStore | null = null;
  private batch: { target: number; at: number; value: number; line: number }[] = [];

  constructor(
    private readonly ctx: Context,
    private readonly graph: StationGraph,
    private readonly declared: ImportRow,
    private readonly body: ReadableStream<Uint8Array>,
  ) {}

  async run(progress: Progress): Promise<{ message: string; result: unknown }> {
    try {
      const result = await this.ctx.db.transact((tx) =>
        this.store(tx, progress).catch(async (error: unknown) => {
          await this.record?.abort();
          throw error;
        }),
      );
      this.result = result;
      return { message: `${result.stored} values new`, result };
    } catch (error) {
      this.failure = error;
      // The sender is told at once, and not only when the last byte has been sent in vain.
      await this.body.cancel().catch(() => {});
      throw error;
    }
  }

  private async store(tx: Transaction, progress: Progress): Promise<ImportResultView> {
    const { ctx, graph, declared } = this;
    await longWork(ctx.db, tx);
    await ctx.db.sequelize.query('select pg_advisory_xact_lock($1::int, hashtext($2))', {
      bind: [importLock, declared.id],
      transaction: tx,
    });
    await this.claim();
    await lockStation(ctx.db, tx, graph.station.key);
    this.targets = await openTargets(ctx.db, tx, graph, declared.plan);
    const record = (this.record = new RecordStore(
      ctx,
      tx,
      { stationId: graph.station.id, stationKey: graph.station.key, source: declared.key },
      { add: this.issues.conflict, room: this.issues.room },
    ));
    await this.read(record, progress);
    await progress.report(0.9, 'Storing what was staged');
    const settled = await record.settle();
    this.requireLike();
    this.requireOneStation();
    await record.rollUp();
    await progress.report(0.95, 'Testing what came');
    await record.test();
    return this.conclude(tx, settled);
  }

  /** Says outside the transaction, under the lock, that the import runs: a free lock then means that it is gone. */
  private async claim(): Promise<void> {
    const { stationId, id } = this.declared;
    const [claimed] = await this.ctx.db.recordImport.update(
      { state: 'running' },
      { where: { stationId, id, state: 'waiting' } },
    );
    if (claimed === 0) throw importEnded('running');
    this.claimed = true;
  }

  /** Reads the file as it arrives; what is read goes to the database while the next piece comes. */
  private async read(record: RecordStore, progress: Progress): Promise<void> {
    const { plan, bytes, fileName } = this.declared;
    const { dialect } = plan;
    const decoder = new TextDecoder(plan.encoding, { fatal: true });
    const cutter = rowCutter(dialect.newline);
    const reader = rowReader(plan, this.ctx.now().getTime(), {
      reading: (target, at, value, line) => this.batch.push({ target, at, value, line }),
      refused: (line, column, text, why) => this.issues.add({ kind: 'refused', line, column, text, why }),
    });
    this.count = reader.count;
    let received = 0;
    const begun = Date.now();
    let told = begun;
    const take = (text: string, last = false) => {
      for (const step of last ? [() => cutter.push(text), () => cutter.end()] : [() => cutter.push(text)]) {
        const { line } = cutter;
        const cut = step();
        if (cut.kind === 'unclosed-quote')
          throw badField(
            'unclosed-quote',
            'file',
            fileName,
            `A quote opened in line ${cut.line} is never closed.`,
            'Close it, or export the file again. Nothing was stored.',
          );
        reader.rows(cut.text, line);
      }
    };
    const stream = this.body.getReader();
    try {
      for (;;) {
        const piece = await inTime(stream.read());
        if (piece.done) break;
        received += piece.value.byteLength;
        if (received > bytes) break;
        requirePace(received, Date.now() - begun);
        take(this.decode(decoder, piece.value, received));
        await this.write(record);
        if (Date.now() - told > 400) {
          told = Date.now();
          await progress.report(0.9 * (received / bytes), `Read ${this.count.rows} rows`);
        }
      }
    } catch (error) {
      if (error instanceof Problem || !/abort|terminated|premature|socket|ECONNRESET/i.test(String(error)))
        throw error;
    } finally {
      // A read that is still waiting is given up with the stream.
      await stream.cancel().catch(() => {});
    }
    if (received !== bytes)
      throw badField(
        'truncated',
        'file',
        fileName,
        `${received} of ${bytes} bytes arrived: the upload was cut short or the file changed meanwhile.`,
        'Nothing was stored. Send it again.',
      );
    take(this.decode(decoder, null, received), true);
    await this.write(record);
    this.repeated = reader.repeated;
    if (this.count.rows === 0)
      throw badField(
        'no-rows',
        'file',
        fileName,
        'The file holds no row of readings.',
        'Look at its header rows.',
      );
  }

  private decode(decoder: TextDecoder, bytes: Uint8Array | null, received: number): string {
    try {
      return bytes ? decoder.decode(bytes, { stream: true }) : decoder.decode();
    } catch {
      throw badField(
        'not-text',
        'file',
        this.declared.fileName,
        `Shortly before byte ${received} the file is no ${this.declared.plan.encoding} text.`,
        'Choose another encoding, or export it again. Nothing was stored.',
      );
    }
  }

  /** Hands a batch to the record. */
  private async write(record: RecordStore): Promise<void> {
    const { batch } = this;
    this.batch = [];
    for (const { target, at, value, line } of batch) {
      const t = this.targets[target]!;
      const run = t.clockRun(at);
      if (run === 'was-twice') {
        this.count.values--;
        this.count.refused++;
        const why = 'the logger’s clock was set back over this stamp: two clock runs hold it';
        this.issues.add({ kind: 'refused', line, column: null, text: new Date(at).toISOString(), why });
        continue;
      }
      t.values++;
      if (t.usual && (value < t.usual.low || value > t.usual.high)) t.outside++;
      const waits = record.put(t, at, run, value, line);
      if (waits) await waits;
    }
    await record.flush();
  }

  /** One file for the wrong station: said before anything is stored, unless the person stands by it. */
  private requireLike(): void {
    const unlike = this.targets.filter((t) => isUnlike(t.values, t.outside));
    if (unlike.length === 0 || this.declared.confirmed) return;
    const names = unlike.map((t) => {
      const q = quantityOf(t.quantity);
      return `${t.name} (${t.outside} of ${t.values} values outside ${formatValue(t.usual!.low, q.decimals)} to ${formatValue(t.usual!.high, q.decimals)} ${q.unit})`;
    });
    throw badField(
      'unlike-stored',
      'file',
      this.declared.fileName,
      `The values are unlike everything stored here: ${names.join('; ')}.`,
      'Is it the right station, are the columns the right ones? If so, confirm and send again. Nothing was stored.',
      { confirm: true },
    );
  }

  /** Two stations in one file would be mixed into one record: the first value at each stamp of either. */
  private requireOneStation(): void {
    const { rows } = this.count;
    if (this.declared.confirmed || !holdsTwoStations(rows, this.repeated)) return;
    throw badField(
      'stamps-repeat',
      'file',
      this.declared.fileName,
      `${this.repeated} of ${rows} rows repeat the stamp of another: the file may hold two stations.`,
      'Split it by station. If it is one station all the same, confirm: of two values at one stamp the first is taken. Nothing was stored.',
      { confirm: true },
    );
  }

  private async conclude(tx: Transaction, settled: Met): Promise<ImportResultView> {
    const { ctx, graph, declared, count } = this;
    const stationId = graph.station.id;
    const span = spanOf(this.targets);
    await this.issues.store(ctx.db, tx, { stationId, importId: declared.id });
    const result: ImportResultView = {
      importId: declared.id,
      rows: count.rows,
      stored: settled.stored,
      known: settled.known,
      conflicting: settled.conflicting,
      refused: count.refused,
      missing: count.missing,
      from: span && new Date(span.from).toISOString(),
      until: span && new Date(span.until).toISOString(),
    };
    const numbers = `${result.stored} values new, ${result.known} identical, ${result.conflicting} in conflict, ${result.refused} refused, ${result.missing} missing`;
    await ctx.db.recordImport.update(
      {
        state: 'complete',
        endedAt: ctx.now(),
        message: numbers,
        dataRows: count.rows,
        stored: result.stored,
        known: result.known,
        conflicting: result.conflicting,
        refused: result.refused,
        missing: result.missing,
        fromAt: span && new Date(span.from),
        untilAt: span && new Date(span.until),
      },
      { where: { stationId, id: declared.id }, transaction: tx },
    );
    await recordAct(ctx, tx, {
      stationId,
      occurredAt: ctx.now(),
      kind: 'import',
      text: `${declared.plan.typed ? 'Typed' : 'Imported'} ${declared.fileName}: ${numbers}`,
      sum: `${result.stored} + ${result.known} + ${result.conflicting} + ${result.refused} + ${result.missing} from ${count.rows} rows × ${declared.plan.columns.length} columns`,
      action: 'record.import',
      subject: { importId: declared.id, stored: result.stored },
    });
    return result;
  }
}
