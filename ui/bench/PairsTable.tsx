'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { pointText } from '@/core/circuit/circuit';
import type { MeasurementPlan } from '@/core/circuit/plan';
import { ohmsText } from '@/core/circuit/words';
import { Sum } from '../shared/Sum';
import { dialText, limitText } from './texts';

/** Pairs of points in the order they are measured in: position of the dial, what to expect, what the meter's limit means. */
export function PairsTable({
  plan,
  errors,
  unit,
  chosen,
  onPoint,
  onTake,
}: {
  plan: MeasurementPlan;
  /** ± of the quantity for each pair; null where it does not follow it. */
  errors: readonly (number | null)[];
  unit: string;
  /** Number of the pair whose clips are drawn. */
  chosen: number | null;
  /** The pointer passes over a pair, or leaves them: it shows something and changes nothing. */
  onPoint?: (pair: number | null) => void;
  /** Both clips are put there. */
  onTake?: (pair: number) => void;
}) {
  const told = errors.filter((e): e is number => e !== null);
  const best = told.length > 0 ? Math.min(...told) : null;
  return (
    <Box sx={{ overflowX: 'auto' }}>
      <Box
        component="table"
        sx={{
          borderCollapse: 'collapse',
          width: '100%',
          '& td, & th': {
            p: '6px 10px 6px 0',
            textAlign: 'left',
            verticalAlign: 'top',
            borderBottom: 1,
            borderColor: 'divider',
          },
        }}
      >
        <thead>
          <tr>
            <th>Clips</th>
            <th>Dial on</th>
            <th>Expect</th>
            <th>Meter ±</th>
            <th>That is</th>
          </tr>
        </thead>
        <tbody>
          {plan.pairs.map((p, i) => (
            <Box
              component="tr"
              key={`${p.from.node}${p.to.node}`}
              onMouseEnter={() => onPoint?.(i)}
              onMouseLeave={() => onPoint?.(null)}
              sx={{ bgcolor: chosen === i ? 'action.hover' : undefined }}
            >
              <td>
                {onTake ? (
                  <Button
                    size="small"
                    aria-pressed={chosen === i}
                    onClick={() => onTake(i)}
                    sx={{ minHeight: 40, px: 1, fontWeight: 700 }}
                  >
                    {pointText(p.from)} – {pointText(p.to)}
                  </Button>
                ) : (
                  <>
                    <b>{pointText(p.from)}</b> – <b>{pointText(p.to)}</b>
                  </>
                )}
                <Box sx={{ color: 'text.secondary', fontSize: '0.88rem' }}>
                  {p.proves ? 'proves the others' : partsText(p.parts)}
                </Box>
              </td>
              <td>{p.range ? dialText(p.range) : 'no position shows it'}</td>
              <td>
                {ohmsText(p.expected)}
                {p.span[1] > p.span[0] * 1.001 && (
                  <Box sx={{ color: 'text.secondary', fontSize: '0.88rem' }}>
                    {ohmsText(p.span[0])} … {ohmsText(p.span[1])} over its range
                  </Box>
                )}
              </td>
              <td>{limitText(p.limit)}</td>
              <td>
                {errors[i] === null ? '–' : `± ${errors[i]!.toPrecision(2)} ${unit}`}
                {errors[i] !== null && errors[i] === best && told.length > 1 && (
                  <Box sx={{ fontSize: '0.88rem', fontWeight: 600 }}>tells it best</Box>
                )}
              </td>
            </Box>
          ))}
        </tbody>
      </Box>
    </Box>
  );
}

/** What a plan leaves open. */
export function PlanFoot({ plan }: { plan: MeasurementPlan }) {
  return (
    <>
      {plan.together.map((g) => (
        <Typography key={g.join()}>Only together from these points: {g.join(' and ')}.</Typography>
      ))}
      {plan.unseen.length > 0 && (
        <Typography color="text.secondary">
          Too small to be seen beside the rest: {plan.unseen.join(', ')}.
        </Typography>
      )}
      <Typography color="text.secondary">
        <Sum>
          {plan.pairs.length} pairs, {plan.moves} {plan.moves === 1 ? 'clip' : 'clips'} moved between them
        </Sum>
      </Typography>
    </>
  );
}

/** What lies in series or in parallel, from what it has of the reading. */
export const partsText = (parts: readonly { id: string; part: number }[]): string =>
  parts
    .slice(0, 4)
    .map(
      (p) =>
        `${p.id} ${p.part > 0.995 ? 'nearly all' : p.part < 0.005 ? '< 1 %' : `${Math.round(100 * p.part)} %`}`,
    )
    .join(', ');
