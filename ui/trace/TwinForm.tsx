'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import type { VerifyProps } from './verifyProps';

/** Which channel should agree with this one, and within what. */
export function TwinForm({ base, series, verify, onChanged }: VerifyProps) {
  const mayMark = useMay('mark');
  const alike = verify.neighbours.filter((n) => n.quantity === series.quantity);
  const [other, setOther] = useState(verify.twin ? `${verify.twin.stationId}.${verify.twin.channelId}` : '');
  const [tolerance, setTolerance] = useState(verify.twin ? String(verify.twin.tolerance) : '');
  const set = useMutation({
    mutationFn: (ref: string) => {
      const [stationId, channelId] = ref.split('.');
      return send('PUT', `${base}/twin`, {
        twinId: newId(),
        other: ref ? { stationId, channelId } : null,
        tolerance: ref ? Number(tolerance.replace(',', '.')) : 1,
      });
    },
    onSuccess: onChanged,
  });
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Typography>
        {verify.twin
          ? `Should agree with ${verify.twin.name} within ±${verify.twin.tolerance} ${verify.unit} on average over a week.`
          : 'No twin is named. A twin or neighbour that measures the same shows what drifts.'}
      </Typography>
      {mayMark && (
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
          <TextField
            select
            label="Twin"
            value={other}
            onChange={(e) => setOther(e.target.value)}
            sx={{ width: 280 }}
          >
            {alike.map((n) => (
              <MenuItem key={n.channelId} value={`${n.stationId}.${n.channelId}`}>
                {n.stationCode} · {n.name}
              </MenuItem>
            ))}
          </TextField>
          <TextField
            label={`Agree within ±, ${verify.unit}`}
            value={tolerance}
            onChange={(e) => setTolerance(e.target.value)}
            sx={{ width: 190 }}
          />
          <Button disabled={!other || !tolerance.trim() || set.isPending} onClick={() => set.mutate(other)}>
            Name it the twin
          </Button>
          {verify.twin && (
            <Button disabled={set.isPending} onClick={() => set.mutate('')}>
              No twin
            </Button>
          )}
        </Box>
      )}
      <ProblemNote error={set.error} />
    </Box>
  );
}
