import Box from '@mui/material/Box';
import type { CheckView } from '@/contract/checkViews';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { StateMark } from '../shared/stateMark';

/** Each point by itself: what was found there, how much counts as agreement, what was left. */
export function PointsTable({ check }: { check: CheckView }) {
  const d = check.plan.decimals;
  if (check.plan.points.length < 2) return null;
  const isLeft = check.points.some((p) => p.asLeft !== null);
  return (
    <Box
      component="table"
      aria-label="Points"
      sx={{ borderCollapse: 'collapse', '& td, & th': { pr: 2, py: 0.25, textAlign: 'left' } }}
    >
      <thead>
        <tr>
          <th>In</th>
          <th>As found</th>
          {isLeft && <th>As left</th>}
          <th>Agrees within</th>
        </tr>
      </thead>
      <tbody>
        {check.plan.points.map((planned) => {
          const p = check.points.find((x) => x.key === planned.key);
          const now = p && (p.asLeft ?? p.asFound);
          return (
            <tr key={planned.key}>
              <td>
                <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
                  <StateMark
                    state={now === undefined ? 'missing' : Math.abs(now) <= p!.limit ? 'sound' : 'displaced'}
                  />
                  {planned.name}
                </Box>
              </td>
              <td>{p ? formatDifference(p.asFound, d) : 'not read'}</td>
              {isLeft && <td>{p?.asLeft != null ? formatDifference(p.asLeft, d) : 'not read'}</td>}
              <td>
                ±{formatValue(p?.limit, d)} {check.unit}
              </td>
            </tr>
          );
        })}
      </tbody>
    </Box>
  );
}
