import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { CheckView } from '@/contract/checkViews';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { Sum } from '../shared/Sum';
import { judgedOf } from './verdictWords';

/** From so many degrees of freedom on the factor is the conventional one. */
const many = 1000;

/** The tolerance budget in both schools, the one that judges first. */
export function BudgetTable({ check }: { check: CheckView }) {
  const { budget } = check;
  if (!budget) return null;
  const d = check.plan.decimals + 1;
  // Of several points the one that is furthest out is reckoned out here.
  const worst = check.points.find((p) => p.budget.meanDifference === budget.meanDifference);
  const used = judgedOf(check).flatMap((r) =>
    r.compared && r.point === (worst?.key ?? null) ? [r.compared.difference] : [],
  );
  const plain = (
    <Box key="sum">
      <Typography variant="h3">
        Plain sum of tolerances{check.plan.school === 'sum' ? ' (judges)' : ''}
      </Typography>
      <Sum>
        {budget.sum.parts.map((p) => `${formatValue(p.limit, d)} (${p.name})`).join(' + ')} = ±
        {formatValue(budget.sum.limit, d)} {check.unit}
      </Sum>
    </Box>
  );
  const gum = (
    <Box key="gum">
      <Typography variant="h3">GUM{check.plan.school === 'gum' ? ' (judges)' : ''}</Typography>
      <Box
        component="table"
        sx={{ borderCollapse: 'collapse', '& td': { pr: 2, py: 0.1, fontSize: '0.88rem' } }}
      >
        <tbody>
          {budget.gum.contributions.map((c) => (
            <tr key={c.name}>
              <td>{c.name}</td>
              <td>
                <Sum>
                  {Number(c.of.toPrecision(3))} / √{c.root} = {formatValue(c.u, 3)}
                </Sum>
              </td>
            </tr>
          ))}
        </tbody>
      </Box>
      <Sum>
        u = √Σu² = {formatValue(budget.gum.u, 3)}; ν ={' '}
        {budget.gum.dof === null || !(budget.gum.dof < many) ? '∞' : Math.floor(budget.gum.dof)}; U ={' '}
        {formatValue(budget.gum.k, 2)} × {formatValue(budget.gum.u, 3)} = ±{formatValue(budget.gum.U, d)}{' '}
        {check.unit}
      </Sum>
      <Typography variant="body2">
        Eₙ = <b>{formatDifference(budget.en, 2)}</b> (
        {Math.abs(budget.en) <= 1 ? 'satisfactory: |Eₙ| ≤ 1' : 'not satisfactory: |Eₙ| > 1'})
      </Typography>
    </Box>
  );
  return (
    <Box sx={{ display: 'grid', gap: 1.5, alignContent: 'start' }}>
      <Box>
        <Typography variant="h3">Mean difference{worst?.name && `, ${worst.name}`}</Typography>
        <Sum>
          ({used.map((r) => formatDifference(r, d)).join(' ')}) ÷ {used.length} ={' '}
        </Sum>
        <b>
          {formatDifference(budget.meanDifference, d)} {check.unit}
        </b>
      </Box>
      {check.plan.school === 'sum' ? [plain, gum] : [gum, plain]}
    </Box>
  );
}
