'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { PlanView } from '@/contract/planViews';
import { send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

/** Before there can be a plan: which model is the logger? */
export function DescribeLogger({ view, onDone }: { view: PlanView; onDone: () => Promise<void> }) {
  const loggers = view.profiles.filter((p) => p.kind === 'logger');
  const [profileCode, setCode] = useState(
    () => loggers.find((p) => p.name.startsWith(view.loggerModel))?.code ?? '',
  );
  const may = useMay('set-up');
  const describe = useMutation({
    mutationFn: () => send('PUT', `/api/v1/stations/${view.stationId}/logger`, { profileCode }),
    onSuccess: onDone,
  });
  return (
    <Box sx={{ maxWidth: 560, display: 'grid', gap: 1.5 }}>
      <Typography variant="h2">Which terminals does it have?</Typography>
      <Typography>
        The logger {view.loggerSerial} is called “{view.loggerModel}”. Choose its profile: its ports and
        terminals come from there, and what hangs on it already stays.
      </Typography>
      {may ? (
        <>
          <TextField
            select
            label="Model of the logger"
            value={profileCode}
            onChange={(e) => setCode(e.target.value)}
          >
            {loggers.map((p) => (
              <MenuItem key={p.code} value={p.code}>
                {p.name}
              </MenuItem>
            ))}
          </TextField>
          <ProblemNote error={describe.error} />
          <Box>
            <Button
              variant="contained"
              sx={gloved}
              disabled={!profileCode || describe.isPending}
              onClick={() => describe.mutate()}
            >
              Use this profile
            </Button>
          </Box>
        </>
      ) : (
        <Typography>A technician can choose it.</Typography>
      )}
    </Box>
  );
}
