'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { AddMeasuringPoint, MeasuringPointView, WaterView } from '@/contract/water';
import { pointKinds, pointRules, type PointKind } from '@/core/water/measuringPoint';
import { newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';

interface Props {
  view: WaterView;
  onSaved: () => Promise<void>;
}

/** Adds what levels are read from. */
export function AddPoint({ view, onSaved }: Props) {
  const [code, setCode] = useState('');
  const [name, setName] = useState('');
  const [kind, setKind] = useState<PointKind>('reference-point');
  const [channelId, setChannelId] = useState(view.channels[0]?.id ?? '');
  const add = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${view.stationId}/water/points`, {
        pointId: newId(),
        code: code.trim(),
        name: name.trim(),
        kind,
        channelId: channelId || null,
      } satisfies AddMeasuringPoint),
    onSuccess: async () => {
      setCode('');
      setName('');
      await onSaved();
    },
  });
  return (
    <Box
      component="form"
      aria-label="Add a measuring point"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate();
      }}
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1.5, alignItems: 'start' }}
    >
      <TextField label="Code" value={code} onChange={(e) => setCode(e.target.value)} sx={{ width: 100 }} />
      <TextField label="Name" value={name} onChange={(e) => setName(e.target.value)} sx={{ width: 230 }} />
      <TextField
        select
        label="Kind"
        value={kind}
        onChange={(e) => setKind(e.target.value as PointKind)}
        helperText={`Levelled: ${pointRules[kind].levelled}`}
        sx={{ width: 220 }}
      >
        {pointKinds.map((k) => (
          <MenuItem key={k} value={k}>
            {pointRules[k].name}
          </MenuItem>
        ))}
      </TextField>
      {view.channels.length > 0 && (
        <TextField
          select
          label="Stands beside"
          value={channelId}
          onChange={(e) => setChannelId(e.target.value)}
          sx={{ width: 220 }}
        >
          {view.channels.map((c) => (
            <MenuItem key={c.id} value={c.id}>
              {c.name}
            </MenuItem>
          ))}
          <MenuItem value="">no channel</MenuItem>
        </TextField>
      )}
      <Button type="submit" disabled={code.trim() === '' || name.trim() === '' || add.isPending}>
        Add
      </Button>
      <ProblemNote error={add.error} />
    </Box>
  );
}

/** Says that a point is there no more. */
export function RetirePoint({ view, point, onSaved }: Props & { point: MeasuringPointView }) {
  const [reason, setReason] = useState<string | null>(null);
  const retire = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${view.stationId}/water/points/${point.id}/retire`, { reason }),
    onSuccess: onSaved,
  });
  if (reason === null)
    return (
      <Button size="small" onClick={() => setReason('')} aria-label={`Retire ${point.code}`}>
        Retire
      </Button>
    );
  return (
    <Box
      component="form"
      aria-label={`Retire ${point.code}`}
      onSubmit={(e) => {
        e.preventDefault();
        retire.mutate();
      }}
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}
    >
      <TextField label="Why" value={reason} autoFocus onChange={(e) => setReason(e.target.value)} />
      <Button type="submit" disabled={reason.trim().length < 3 || retire.isPending}>
        It is there no more
      </Button>
      <Button onClick={() => setReason(null)}>Leave it</Button>
      <ProblemNote error={retire.error} />
    </Box>
  );
}
