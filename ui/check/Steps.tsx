'use client';

import ExpandMore from '@mui/icons-material/ExpandMore';
import Accordion from '@mui/material/Accordion';
import AccordionDetails from '@mui/material/AccordionDetails';
import AccordionSummary from '@mui/material/AccordionSummary';
import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import type { CheckPlan } from '@/core/check/plan';
import { procedureOf } from '@/core/procedure/procedures';
import { nowMs } from '../shared/deviceClock';
import { gloved } from '../shared/theme';

/** How the check is done, step by step with its reasons; what can hurt somebody is seen without opening it. */
export function Steps({ procedure, quantity }: Pick<CheckPlan, 'procedure' | 'quantity'>) {
  const { name, steps } = procedureOf(procedure);
  const all = steps(quantity);
  const cautions = [...new Set(all.flatMap((s) => s.caution ?? []))];
  return (
    <Box component="section" aria-label="How it is done" sx={{ mb: 2 }}>
      {cautions.map((caution) => (
        <Alert key={caution} severity="warning" variant="outlined" sx={{ mb: 1, color: 'text.primary' }}>
          {caution}
        </Alert>
      ))}
      <Accordion disableGutters variant="outlined" square>
        <AccordionSummary expandIcon={<ExpandMore />} sx={{ minHeight: 48 }}>
          <Typography component="span" sx={{ fontWeight: 600 }}>
            {name}: {all.length} steps
          </Typography>
        </AccordionSummary>
        <AccordionDetails>
          <Box component="ol" sx={{ m: 0, pl: 3, display: 'grid', gap: 1 }}>
            {all.map((s) => (
              <li key={s.say}>
                <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', justifyContent: 'space-between' }}>
                  <Box sx={{ maxWidth: 640 }}>
                    <Typography>{s.say}</Typography>
                    <Typography variant="body2" color="text.secondary">
                      {s.why}
                    </Typography>
                  </Box>
                  {s.wait !== undefined && <Timer seconds={s.wait} />}
                </Box>
              </li>
            ))}
          </Box>
        </AccordionDetails>
      </Accordion>
    </Box>
  );
}

/** Counts a step's time down, by the clock, so that a page that slept is right all the same. */
function Timer({ seconds }: { seconds: number }) {
  const [until, setUntil] = useState<number | null>(null);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (until === null) return;
    const id = setInterval(() => setNow(nowMs()), 500);
    return () => clearInterval(id);
  }, [until]);
  const left = until === null ? seconds : Math.max(0, Math.ceil((until - now) / 1000));
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
      <Typography
        component="span"
        role="timer"
        sx={{ fontVariantNumeric: 'tabular-nums', fontSize: '1.2rem' }}
      >
        {left === 0 ? 'time is up' : `${Math.floor(left / 60)}:${String(left % 60).padStart(2, '0')}`}
      </Typography>
      <Button
        sx={gloved}
        onClick={() => {
          const begin = nowMs();
          setNow(begin);
          setUntil(until === null ? begin + seconds * 1000 : null);
        }}
      >
        {until === null ? 'Start' : 'Again'}
      </Button>
    </Box>
  );
}
