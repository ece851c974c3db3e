'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { SetDatum, WaterView } from '@/contract/water';
import { metresOf } from '@/core/water/metres';
import { newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';

/** Names the station's zero, and where that lies in others. */
export function DatumForm({ view, onSaved }: { view: WaterView; onSaved: () => Promise<void> }) {
  const [open, setOpen] = useState(false);
  const [name, setName] = useState(view.datum?.name ?? '');
  const [others, setOthers] = useState(
    (view.datum?.others ?? []).map((o) => ({ name: o.name, zero: String(o.zero) })),
  );
  const save = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${view.stationId}/water/datum`, {
        datumId: newId(),
        basedOn: view.datum?.id ?? null,
        name: name.trim(),
        others: others.map((o) => ({ name: o.name.trim(), zero: metresOf(o.zero) })),
      } satisfies SetDatum),
    onSuccess: async () => {
      setOpen(false);
      await onSaved();
    },
  });
  const change = (i: number, to: Partial<(typeof others)[number]>) =>
    setOthers(others.map((o, n) => (n === i ? { ...o, ...to } : o)));
  if (!open)
    return (
      <Button onClick={() => setOpen(true)}>{view.datum ? 'Change the datum' : 'Name the datum'}</Button>
    );
  return (
    <Box
      component="form"
      aria-label="Datum"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
      sx={{ display: 'grid', gap: 1, mt: 1, maxWidth: 620 }}
    >
      <TextField label="Name of the station’s zero" value={name} onChange={(e) => setName(e.target.value)} />
      {others.map((o, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <TextField
            label="Other datum"
            value={o.name}
            onChange={(e) => change(i, { name: e.target.value })}
          />
          <TextField
            label="Our zero in it, m"
            value={o.zero}
            error={!Number.isFinite(metresOf(o.zero))}
            onChange={(e) => change(i, { zero: e.target.value })}
          />
          <Button onClick={() => setOthers(others.filter((_, n) => n !== i))}>Leave out</Button>
        </Box>
      ))}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <Button onClick={() => setOthers([...others, { name: '', zero: '0' }])}>Another datum</Button>
        <Button
          type="submit"
          variant="contained"
          disabled={
            name.trim() === '' ||
            others.some((o) => o.name.trim() === '' || !Number.isFinite(metresOf(o.zero))) ||
            save.isPending
          }
        >
          Save
        </Button>
        <Button onClick={() => setOpen(false)}>Leave it</Button>
      </Box>
      <ProblemNote error={save.error} />
    </Box>
  );
}
