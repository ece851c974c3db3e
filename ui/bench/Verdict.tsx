'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import { gloved } from '../shared/theme';
import type { SessionActs } from './useSession';
import type { Weighing } from './weigh.worker';

/** What it came to: settled on by the person, who has seen what the readings say. */
export function Verdict({
  weighing,
  acts,
  isOff,
}: {
  weighing: Weighing | null;
  acts: SessionActs;
  isOff: boolean;
}) {
  const [chosen, setChosen] = useState<string | null>(null);
  const [note, setNote] = useState('');
  const groups = weighing?.ranked ?? [];
  const ranked = groups.flatMap((g) => g.members);
  const outcome = chosen ?? (groups[0] && groups[0].likelihood > 0.5 ? groups[0].id : 'undecided');
  return (
    <Box
      component="form"
      aria-label="End of the measurement"
      onSubmit={(e) => {
        e.preventDefault();
        acts.end(outcome, note.trim());
      }}
      sx={{ display: 'grid', gap: 1.5, mt: 2 }}
    >
      <TextField
        select
        size="medium"
        label="It comes to"
        value={ranked.some((r) => r.id === outcome) ? outcome : 'undecided'}
        onChange={(e) => setChosen(e.target.value)}
      >
        {ranked.map((r) => (
          <MenuItem key={r.id} value={r.id} sx={{ minHeight: 48, whiteSpace: 'normal' }}>
            {r.says}
          </MenuItem>
        ))}
        <MenuItem value="undecided" sx={{ minHeight: 48 }}>
          Undecided
        </MenuItem>
      </TextField>
      <TextField
        size="medium"
        label="What was done about it"
        value={note}
        onChange={(e) => setNote(e.target.value)}
        multiline
        slotProps={{ htmlInput: { maxLength: 1000 } }}
      />
      {isOff && (
        <Typography>Leads are off still. End it when they are on again, or the window stays open.</Typography>
      )}
      <Button type="submit" sx={gloved} disabled={acts.isBusy}>
        End the measurement
      </Button>
    </Box>
  );
}
