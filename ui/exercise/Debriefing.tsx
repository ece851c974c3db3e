'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import type { Debrief } from '@/core/circuit/exercise';
import type { Rig } from '@/core/circuit/rig';
import { nominalOf } from '@/core/circuit/verdict';
import { explanationText, faultWords } from '@/core/circuit/words';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';

const minutes = (s: number): string => `${(s / 60).toFixed(1)} min`;

/** How it went, beside what the tool's own plan would have taken. */
export function Debriefing({
  debrief: d,
  rig,
  next,
  isOff,
}: {
  debrief: Debrief;
  rig: Rig;
  /** Number of the next exercise; null after the last. */
  next: number | null;
  isOff: boolean;
}) {
  const says = (e: Debrief['truth']) => faultWords[e.kind].says(e.of);
  return (
    <Box component="section" aria-label="Debrief" sx={{ mt: 2, display: 'grid', gap: 1 }}>
      <Typography variant="h2" sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <StateMark state={d.isRight ? 'sound' : 'displaced'} /> {d.isRight ? 'Right' : 'Not that'}
      </Typography>
      <Typography>
        It was: <b>{says(d.truth)}</b>.{' '}
        {d.alike.length > 0 &&
          `What can be measured there does not tell it from: ${d.alike.map(says).join('; ')}.`}
      </Typography>
      <Typography>{faultWords[d.truth.kind].next}</Typography>
      <Typography>
        You read the meter {d.yours.readings} times and had the leads off for {minutes(d.yours.secondsOff)};
        the tool’s plan takes {d.best.readings} readings and {minutes(d.best.secondsOff)}.
        {isOff && ' The leads are off still.'}
      </Typography>
      <Typography>
        From your readings the tool says:{' '}
        {d.weighed
          .slice(0, 3)
          .map((w) => `${explanationText(w, nominalOf(rig))} (${Math.round(100 * w.likelihood)} %)`)
          .join('; ')}
        .
      </Typography>
      <Box sx={{ display: 'flex', gap: 1 }}>
        {next !== null && (
          <Button component={PageLink} href={`/exercises?n=${next}`} variant="contained" sx={gloved}>
            Next exercise
          </Button>
        )}
        <Button component={PageLink} href="/exercises" sx={gloved}>
          All exercises
        </Button>
      </Box>
    </Box>
  );
}
