import Papa from 'papaparse';
import type { FieldBookPage } from '@/contract/fieldBookPage';
import { plainText } from '@/core/export/plainText';
import { quantityOf } from '@/core/quantity/quantity';

/** What the file is called. */
export const pageName = ({ code, from }: FieldBookPage): string => `${code}-field-book-${from.slice(0, 10)}`;

/** A page as data, every number as a number: `docs/schemas/field-book-page.schema.json` says what is where. */
export function pageDocument(page: FieldBookPage): unknown {
  const unitOf = (quantity: FieldBookPage['readings'][number]['quantity']) => quantityOf(quantity).unit;
  const line = (l: FieldBookPage['lines'][number]) => ({
    at: l.occurredAt,
    recordedAt: l.recordedAt,
    by: l.initials,
    kind: l.kind,
    text: l.text,
    sum: l.sum,
    deviceAhead: l.deviceAhead,
  });
  return {
    format: 'outer-cairn/field-book-page',
    version: 1,
    station: { code: page.code, name: page.name, site: page.site, zone: page.zone },
    visit: { id: page.visitId, from: page.from, until: page.until },
    people: page.people.map(({ initials, arrivedAt, leftAt, others, acknowledged }) => ({
      initials,
      arrivedAt,
      leftAt,
      others,
      acknowledged,
    })),
    signed: page.signed,
    lines: page.lines.map(line),
    additions: page.additions.map(line),
    readings: page.readings.map((r) => ({ ...r, unit: unitOf(r.quantity) })),
    adjustments: page.adjustments.map((a) => ({ ...a, unit: unitOf(a.quantity) })),
    handheld: page.handheld,
    pictures: page.pictures.map(
      ({ id, takenAt, occasion, note, initials, width, height, latitude, longitude }) => ({
        id,
        at: takenAt,
        occasion,
        note,
        by: initials,
        width,
        height,
        latitude,
        longitude,
      }),
    ),
    leftOpen: page.leftOpen,
  };
}

/**
 * A page as a table: a row a line, reading, adjustment and picture, in the order of the acts. Text that a
 * spreadsheet would take for a formula is kept as text.
 */
export async function* pageCsv(page: FieldBookPage): AsyncGenerator<string> {
  const rows = [
    ...[...page.lines, ...page.additions].map((l) => ({
      at: l.occurredAt,
      row: page.additions.includes(l) ? 'addition' : 'line',
      by: l.initials,
      kind: l.kind,
      text: l.text,
      sum: l.sum ?? '',
    })),
    ...page.readings.map((r) => ({
      at: r.at,
      row: 'reading',
      kind: r.phase,
      text: r.excluded ? `taken back: ${r.excluded}` : '',
      channel: r.channel,
      unit: quantityOf(r.quantity).unit,
      sensor: r.sensor,
      reference: r.reference,
      compared: r.compared,
      difference: r.difference,
    })),
    ...page.adjustments.map((a) => ({
      at: a.at,
      row: 'adjustment',
      kind: a.way,
      channel: a.channel,
      unit: quantityOf(a.quantity).unit,
      entered: a.entered,
      previous: a.previous,
      resulting: a.resulting,
    })),
    ...page.handheld.map((h) => ({
      at: h.at,
      row: 'handheld',
      kind: h.quantity,
      text: h.label,
      channel: h.channel ?? '',
      unit: h.unit,
      entered: h.entered,
    })),
    ...page.pictures.map((p) => ({
      at: p.takenAt,
      row: 'picture',
      by: p.initials,
      kind: p.occasion,
      text: p.note,
    })),
  ].sort((a, b) => a.at.localeCompare(b.at));
  const columns = [
    'at',
    'row',
    'by',
    'kind',
    'text',
    'sum',
    'channel',
    'unit',
    'sensor',
    'reference',
    'compared',
    'difference',
    'entered',
    'previous',
    'resulting',
  ];
  yield Papa.unparse(rows as object[], { columns, newline: '\r\n', ...plainText });
}

export async function* pageJson(page: FieldBookPage): AsyncGenerator<string> {
  yield JSON.stringify(pageDocument(page), null, 1);
}
