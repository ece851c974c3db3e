'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { BenchPlan } from '@/core/circuit/steps';
import { PairsTable, PlanFoot } from './PairsTable';
import { dialText, type BenchChannel } from './texts';

/** What is measured, in its order: between which points, on which position, what to expect, how well it tells. */
export function PlanTable({
  plan,
  channel,
  tolerance,
  chosen,
  onPoint,
}: {
  plan: BenchPlan;
  channel: BenchChannel;
  /** ± base unit that the sensor states of itself. */
  tolerance: number;
  /** Number of the pair whose clips are drawn. */
  chosen: number | null;
  onPoint: (pair: number | null) => void;
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
      <PairsTable plan={ohms} errors={errors} unit={channel.unit} chosen={chosen} onPoint={onPoint} />
      <Box sx={{ mt: 1.5 }}>
        {best !== null && best > tolerance && (
          <Typography>
            With this meter the value is known to ± {best.toPrecision(2)} {channel.unit} at best, its sensor
            states ± {tolerance.toPrecision(2)} {channel.unit}: it finds a fault, it proves no tolerance. A
            better meter would.
          </Typography>
        )}
        <PlanFoot plan={ohms} />
      </Box>
    </>
  );
}
