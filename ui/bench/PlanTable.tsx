'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { BenchPlan } from '@/core/circuit/steps';
import { ohmsText } from '@/core/circuit/words';
import { Sum } from '../shared/Sum';
import { pointText } from '@/core/circuit/circuit';
import { dialText, limitText, type BenchChannel } from './texts';

/** What is measured, in its order: between which points, on which position, what to expect, how well it tells. */
export function PlanTable({
  plan,
  channel,
  tolerance,
  chosen,
  onChoose,
}: {
  plan: BenchPlan;
  channel: BenchChannel;
  /** ± base unit that the sensor states of itself. */
  tolerance: number;
  /** Number of the pair whose clips are drawn. */
  chosen: number | null;
  onChoose: (pair: number | null) => void;
}) {
  const { ohms, errors, fed } = plan;
  const told = errors.filter((e): e is number => e !== null);
  const best = told.length > 0 ? Math.min(...told) : null;
  return (
    <>
      {fed.length > 0 && (
        <>
          <Typography variant="h3">Fed, with the leads on</Typography>
          <Box component="ul" sx={{ m: 0, mb: 1.5, pl: 2.5 }}>
            {fed.map((f) => (
              <li key={f.says}>
                {f.what}: {f.says}, about{' '}
                <b>
                  {Number(f.expected.toPrecision(4))}{' '}
                  {f.of.kind === 'volts' ? 'V' : f.of.kind === 'milliamps' ? 'mA' : 'counts'}
                </b>
                {'range' in f.of && `, dial on ${dialText(f.of.range)}`}
              </li>
            ))}
          </Box>
        </>
      )}
      <Typography variant="h3">Dead, with the leads off: clips on lead ends</Typography>
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
            {ohms.pairs.map((p, i) => (
              <Box
                component="tr"
                key={`${p.from.node}${p.to.node}`}
                onMouseEnter={() => onChoose(i)}
                onMouseLeave={() => onChoose(null)}
                sx={{ bgcolor: chosen === i ? 'action.hover' : undefined }}
              >
                <td>
                  <b>{pointText(p.from)}</b> – <b>{pointText(p.to)}</b>
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
                  {errors[i] === null ? '–' : `± ${errors[i]!.toPrecision(2)} ${channel.unit}`}
                  {errors[i] !== null && errors[i] === best && told.length > 1 && (
                    <Box sx={{ fontSize: '0.88rem', fontWeight: 600 }}>tells it best</Box>
                  )}
                </td>
              </Box>
            ))}
          </tbody>
        </Box>
      </Box>
      <Box sx={{ mt: 1.5 }}>
        {best !== null && best > tolerance && (
          <Typography>
            With this meter the value is known to ± {best.toPrecision(2)} {channel.unit} at best, its sensor
            states ± {tolerance.toPrecision(2)} {channel.unit}: it finds a fault, it proves no tolerance. A
            better meter would.
          </Typography>
        )}
        {ohms.together.map((g) => (
          <Typography key={g.join()}>Only together from these points: {g.join(' and ')}.</Typography>
        ))}
        {ohms.unseen.length > 0 && (
          <Typography color="text.secondary">
            Too small to be seen beside the rest: {ohms.unseen.join(', ')}.
          </Typography>
        )}
        <Typography color="text.secondary">
          <Sum>
            {ohms.pairs.length} pairs, {ohms.moves} {ohms.moves === 1 ? 'clip' : 'clips'} moved between them
          </Sum>
        </Typography>
      </Box>
    </>
  );
}

/** What lies in series or in parallel, from what it has of the reading. */
const partsText = (parts: readonly { id: string; part: number }[]): string =>
  parts
    .slice(0, 4)
    .map(
      (p) =>
        `${p.id} ${p.part > 0.995 ? 'nearly all' : p.part < 0.005 ? '< 1 %' : `${Math.round(100 * p.part)} %`}`,
    )
    .join(', ');
