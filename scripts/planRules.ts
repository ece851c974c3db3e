import { planRules } from '@/core/plan/rules';
import { rulesTable } from '@/core/plan/rulesTable';
import { betweenMarks } from './betweenMarks';

/** Writes the table of docs/plan-rules.md anew, between its marks. */
betweenMarks('docs/plan-rules.md', 'rules', rulesTable(planRules));
