import type { PlanRule } from './rule';
import type { Severity } from './finding';

const words: Readonly<Record<Severity, string>> = {
  stops: 'stop',
  fails: 'will not work',
  doubt: 'in doubt',
  hint: 'look',
};

/** The rules as the table of docs/plan-rules.md. */
export const rulesTable = (rules: readonly PlanRule[]): string =>
  [
    '| id | finds | how much it matters | its sum | source |',
    '| --- | --- | --- | --- | --- |',
    ...rules.map(
      (r) =>
        `| \`${r.id}\` | ${r.title} | ${words[r.severity]} | ${r.sum.replaceAll('|', '\\|')} | ${r.source} |`,
    ),
  ].join('\n');
