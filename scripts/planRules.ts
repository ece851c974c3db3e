import { readFileSync, writeFileSync } from 'node:fs';
import { planRules } from '@/core/plan/rules';
import { rulesTable } from '@/core/plan/rulesTable';

/** Writes the table of docs/plan-rules.md anew, between its marks. */
const file = 'docs/plan-rules.md';
const text = readFileSync(file, 'utf8');
const [before, , after] = text.split(/<!-- rules -->|<!-- end of rules -->/);
writeFileSync(file, `${before}<!-- rules -->\n\n${rulesTable(planRules)}\n\n<!-- end of rules -->${after}`);
