import { guessDialect, splitRows, timeText, type Dialect } from '@/core/import/dialect';
import { guessEncoding, type FileEncoding } from '@/core/import/encoding';
import { fileSignature, guessColumn } from '@/core/import/guessColumn';
import type { StampZone } from '@/core/import/localTime';
import { usualMissing, type ColumnTarget, type ImportPlan } from '@/core/import/plan';
import { guessStamp, type StampGuess, type StampOrder } from '@/core/import/stamp';
import type { ImportStartView } from '@/contract/recordViews';

/** What is known of a chosen file and what the person has settled so far. */
export interface Draft {
  readonly file: File;
  readonly head: Uint8Array;
  readonly encoding: FileEncoding;
  readonly dialect: Dialect;
  readonly columns: readonly { readonly name: string; readonly unit: string }[];
  readonly stamp: StampGuess;
  /** Null while a person has to say which. */
  readonly stampOrder: StampOrder | null;
  readonly zone: StampZone;
  readonly missing: string;
  /** The record really begins before 1950. */
  readonly oldStamps: boolean;
  /** For each column of the file: where it goes, or null. Without a unit while a person has to say which. */
  readonly targets: readonly ((ColumnTarget['channel'] & { unit: ColumnTarget['unit'] | null }) | null)[];
  readonly signature: string;
  /** This layout was imported here before. */
  readonly remembered: boolean;
}

const headSize = 256 * 1024;

/** Reads the beginning of a file and proposes everything. Throws an Error in plain words. */
export async function draftOf(file: File, start: ImportStartView): Promise<Draft> {
  if (file.size === 0) throw new Error(`${file.name} is empty. Export it again.`);
  if (file.size > start.limit)
    throw new Error(
      `${file.name} has ${Math.ceil(file.size / 1e6)} MB, and ${Math.round(start.limit / 1e6)} MB are taken at most. Split it, or have the administrator raise the limit.`,
    );
  const head = new Uint8Array(await file.slice(0, headSize).arrayBuffer());
  const guess = guessEncoding(head, file.size <= headSize);
  if (guess.kind === 'binary') throw new Error(`${file.name} is no text: ${guess.why}. Export it as CSV.`);
  return draftWith(file, head, guess.kind === 'text' ? guess.encoding : 'utf-8', start);
}

/** The beginning as whole rows of text. */
function textOf(head: Uint8Array, encoding: FileEncoding, whole: boolean): string {
  const text = new TextDecoder(encoding).decode(head);
  const end = Math.max(text.lastIndexOf('\n'), text.lastIndexOf('\r'));
  return whole || end < 0 ? text : text.slice(0, end + 1);
}

/** Proposes a layout anew, as when another encoding is chosen. */
export function draftWith(
  file: File,
  head: Uint8Array,
  encoding: FileEncoding,
  start: ImportStartView,
): Draft {
  const guess = guessDialect(textOf(head, encoding, file.size <= head.length));
  if (!guess)
    throw new Error(
      `${file.name} holds no table with a column of times. Its rows need a time and at least one value, set apart by comma, semicolon, tab or bar.`,
    );
  const signature = fileSignature(guess.dialect.delimiter, guess.columns);
  const known = start.remembered.find((r) => r.signature === signature)?.plan ?? null;
  if (known) return fromPlan(known, { file, head, signature, columns: guess.columns, stamp: guess.stamp });
  return {
    file,
    head,
    encoding,
    dialect: guess.dialect,
    columns: guess.columns,
    stamp: guess.stamp,
    stampOrder: guess.stamp.kind === 'one' ? guess.stamp.order : null,
    zone:
      guess.stamp.kind === 'one' && guess.stamp.carriesOffset
        ? { kind: 'stamp' }
        : { kind: 'fixed', minutes: start.loggerOffsetMinutes },
    missing: usualMissing.join(' '),
    oldStamps: false,
    targets: proposeTargets(
      guess.columns.map((c, i) => (guess.dialect.timeColumns.includes(i) ? null : c)),
      start,
    ),
    signature,
    remembered: false,
  };
}

/**
 * The likely channels of columns (null: a column of times): the one of the same name, or where one column
 * and one channel have a quantity, that one; a new one else. Of a day's highest and lowest neither is the
 * channel.
 */
function proposeTargets(
  columns: readonly ({ name: string; unit: string } | null)[],
  start: ImportStartView,
): Draft['targets'] {
  const guesses = columns.map((c) => c && guessColumn(c.name, c.unit));
  return guesses.map((guess, i) => {
    if (!guess) return null;
    const { quantity, unit } = guess;
    const fitting = start.channels.filter((c) => c.quantity === quantity);
    const alone = fitting.length === 1 && guesses.filter((g) => g?.quantity === quantity).length === 1;
    const one =
      fitting.find((c) => c.name.toLowerCase() === columns[i]!.name.toLowerCase()) ??
      (alone ? fitting[0]! : null);
    return one
      ? { kind: 'existing', id: one.id, quantity, unit }
      : { kind: 'new', quantity, zoneName: '', unit };
  });
}

function fromPlan(
  plan: ImportPlan,
  known: Pick<Draft, 'file' | 'head' | 'signature' | 'columns' | 'stamp'>,
): Draft {
  return {
    ...known,
    encoding: plan.encoding,
    dialect: plan.dialect,
    stampOrder: plan.stampOrder,
    zone: plan.zone,
    missing: plan.missing.join(' '),
    oldStamps: plan.oldStamps ?? false,
    targets: known.columns.map((_, i) => {
      const target = plan.columns.find((c) => c.column === i);
      return target ? { ...target.channel, unit: target.unit } : null;
    }),
    remembered: true,
  };
}

/** The first rows under the layout in force, cell by cell. */
export const headRows = (draft: Draft): string[][] =>
  splitRows(textOf(draft.head, draft.encoding, false), draft.dialect.delimiter, draft.dialect.newline).slice(
    0,
    60,
  );

/** A changed layout reads names and stamps anew; what was mapped stays where the columns are the same. */
export function relayout(draft: Draft, change: Partial<Dialect>): Draft {
  const dialect = { ...draft.dialect, ...change };
  const rows = headRows({ ...draft, dialect });
  const body = rows.slice(dialect.headerRows);
  const width = body[0]?.length ?? 2;
  const name = (i: number) =>
    (dialect.nameRow === null ? '' : (rows[dialect.nameRow]?.[i] ?? '')) || `column ${i + 1}`;
  const unit = (i: number) => (dialect.unitRow === null ? '' : (rows[dialect.unitRow]?.[i] ?? ''));
  const stamp = guessStamp(
    body.filter((r) => r.length === width).map((r) => timeText(r, dialect.timeColumns)),
  );
  return {
    ...draft,
    dialect: { ...dialect, width },
    columns: Array.from({ length: width }, (_, i) => ({ name: name(i), unit: unit(i) })),
    stamp,
    stampOrder: stamp.kind === 'one' ? stamp.order : null,
    targets: Array.from({ length: width }, (_, i) =>
      dialect.timeColumns.includes(i) ? null : (draft.targets[i] ?? null),
    ),
    remembered: false,
  };
}

/** Columns whose unit a person has to say: one is written that is not known. */
export const unitsToSay = (draft: Draft): readonly { name: string; unit: string }[] =>
  draft.columns.filter((_, i) => draft.targets[i] && draft.targets[i].unit === null);

/** The plan a draft amounts to; null while something is not settled. */
export function planOf(draft: Draft): ImportPlan | null {
  if (!draft.stampOrder || unitsToSay(draft).length > 0) return null;
  const columns = draft.targets.flatMap((t, column): ColumnTarget[] => {
    if (!t) return [];
    const { unit, ...channel } = t;
    return unit === null ? [] : [{ column, unit, channel }];
  });
  return {
    encoding: draft.encoding,
    dialect: draft.dialect,
    stampOrder: draft.stampOrder,
    zone: draft.zone,
    missing: draft.missing.split(/\s+/).filter(Boolean),
    columns,
    ...(draft.oldStamps && { oldStamps: true }),
  };
}
