import { readFileSync, writeFileSync } from 'node:fs';

/** Writes what stands between `<!-- name -->` and `<!-- end of name -->` of a page anew. */
export function betweenMarks(file: string, name: string, table: string): void {
  const text = readFileSync(file, 'utf8');
  const [before, , after] = text.split(new RegExp(`<!-- ${name} -->|<!-- end of ${name} -->`));
  writeFileSync(file, `${before}<!-- ${name} -->\n\n${table}\n\n<!-- end of ${name} -->${after}`);
}
