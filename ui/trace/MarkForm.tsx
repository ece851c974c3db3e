'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { isoOf, SpanFields } from './SpanFields';
import type { VerifyProps } from './verifyProps';

/** Marks a span by hand, with a reason. */
export function MarkForm({ base, span, window: shown, zone, onChanged }: VerifyProps) {
  const [from, setFrom] = useState((span ?? shown).from);
  const [until, setUntil] = useState((span ?? shown).until);
  const [flag, setFlag] = useState<3 | 4>(3);
  const [reason, setReason] = useState('');
  const mark = useMutation({
    mutationFn: () =>
      send('POST', `${base}/marks`, {
        layerId: newId(),
        from: isoOf(from),
        until: isoOf(until),
        flag,
        reason,
      }),
    onSuccess: () => {
      setReason('');
      void onChanged();
    },
  });
  return (
    <Box
      component="form"
      onSubmit={(e) => {
        e.preventDefault();
        mark.mutate();
      }}
    >
      <Typography sx={{ mb: 1.5 }}>
        Press “Drag chooses a span” (or <b>s</b>) and drag over the trace, or type it. The logged values stay
        as they are.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
        <SpanFields from={from} until={until} zone={zone} onFrom={setFrom} onUntil={setUntil} />
        <TextField
          select
          label="Mark it"
          value={flag}
          onChange={(e) => setFlag(Number(e.target.value) as 3 | 4)}
          sx={{ width: 120 }}
        >
          <MenuItem value={3}>suspect</MenuItem>
          <MenuItem value={4}>failed</MenuItem>
        </TextField>
        <TextField
          label="Reason"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          sx={{ flexGrow: 1, minWidth: 240 }}
        />
        <Button type="submit" variant="contained" disabled={reason.trim().length < 3 || mark.isPending}>
          Mark the span
        </Button>
      </Box>
      <ProblemNote error={mark.error} />
    </Box>
  );
}
