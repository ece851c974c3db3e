'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { timeText } from '../shared/time';
import { ProvedNote } from './ProvedNote';
import type { VerifyProps } from './verifyProps';

/** A reviewer signs the window that is on screen, or the span chosen in it. */
export function ApproveForm({ base, series, verify, window: shown, span, zone, onChanged }: VerifyProps) {
  const { from, until } = span ?? shown;
  const [note, setNote] = useState('');
  const n = series.points.filter((p) => p.t >= from && p.t <= until).reduce((s, p) => s + p.n, 0);
  const over = series.layers.filter((l) => l.from <= until && (l.until ?? Infinity) >= from);
  const count = (kind: string) => over.filter((l) => l.kind === kind).length;
  const approve = useMutation({
    mutationFn: () =>
      send('POST', `${base}/approvals`, {
        layerId: newId(),
        from: new Date(from).toISOString(),
        until: new Date(until).toISOString(),
        note,
      }),
    onSuccess: onChanged,
  });
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      {verify.approval && (
        <Typography>
          Last approved by <b>{verify.approval.initials}</b>: {timeText(verify.approval.from, zone)} to{' '}
          {timeText(verify.approval.until, zone)}.{' '}
          {verify.approval.reopened ? <b>Reopened, {verify.approval.reopened}.</b> : 'It stands.'}
        </Typography>
      )}
      <Typography>
        {span ? 'The chosen span' : 'The window on screen'}, {timeText(from, zone)} to {timeText(until, zone)}
        : about <b>{n}</b> values, with {count('flag')} flags, {count('correction')} corrections and{' '}
        {count('off-line')} off-line windows over them.
      </Typography>
      <ProvedNote series={series} verify={verify} />
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
        <TextField
          label="Note (optional)"
          value={note}
          onChange={(e) => setNote(e.target.value)}
          sx={{ width: 360 }}
        />
        <Button variant="contained" disabled={approve.isPending || n === 0} onClick={() => approve.mutate()}>
          Approve
        </Button>
      </Box>
      <Typography variant="body2" color="text.secondary">
        Anything laid over it later, or stored into it later, reopens it visibly; your signature stays on
        file.
      </Typography>
      <ProblemNote error={approve.error} />
    </Box>
  );
}
