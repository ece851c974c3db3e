import { readFileSync } from 'node:fs';

/** Cells of a table in Markdown, whatever its columns are padded to. */
const cellsOf = (table: string): string[][] =>
  table
    .trim()
    .split('\n')
    .map((line) =>
      line
        .split('|')
        .slice(1, -1)
        .map((cell) => cell.trim().replace(/^-+$/, '---')),
    );

/**
 * Holds a table that stands in the documents between `<!-- name -->` and `<!-- /name -->` against what
 * the code says it should be; a failure prints the rows to put there.
 */
export function expectDocTable(
  file: string,
  name: string,
  head: readonly string[],
  rows: readonly (readonly string[])[],
) {
  const text = readFileSync(file, 'utf8');
  const shown = new RegExp(`<!-- ${name} -->([^]*?)<!-- /${name} -->`).exec(text)?.[1];
  expect(cellsOf(shown ?? '')).toEqual([head, head.map(() => '---'), ...rows]);
}
