'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ChangeStation, RetireStation } from '@/contract/planRequests';
import type { SetUpView } from '@/contract/planViews';
import { send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { openForm } from '../shared/theme';

/** Renames a station, moves it to another site, changes its cautions, retires it with a reason. */
export function ChangeStationForm({
  view,
  siteId: from,
  station,
  onDone,
  onCancel,
}: {
  view: SetUpView;
  siteId: string;
  station: SetUpView['sites'][number]['stations'][number];
  onDone: () => void;
  onCancel: () => void;
}) {
  const [code, setCode] = useState(station.code);
  const [name, setName] = useState(station.name);
  const [siteId, setSiteId] = useState(from);
  const [cautions, setCautions] = useState(station.cautions.join('\n'));
  const [reason, setReason] = useState('');
  const change = useMutation({
    mutationFn: () =>
      send('PUT', `/api/v1/stations/${station.id}`, {
        code,
        name,
        siteId,
        cautions: lines(cautions),
      } satisfies ChangeStation),
    onSuccess: onDone,
  });
  const retire = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${station.id}/retire`, {
        retired: true,
        reason,
      } satisfies RetireStation),
    onSuccess: onDone,
  });
  return (
    <Box
      component="form"
      noValidate
      aria-label={`Change ${station.code}`}
      sx={openForm}
      onSubmit={(e) => {
        e.preventDefault();
        change.mutate();
      }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
        <TextField label="Code" value={code} onChange={(e) => setCode(e.target.value.toUpperCase())} />
        <TextField label="Name" value={name} onChange={(e) => setName(e.target.value)} />
        <TextField
          select
          label="Site"
          value={siteId}
          onChange={(e) => setSiteId(e.target.value)}
          sx={{ minWidth: 200 }}
        >
          {view.sites.map((s) => (
            <MenuItem key={s.id} value={s.id}>
              {s.name}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <TextField
        multiline
        minRows={2}
        label="Cautions, one to a line"
        value={cautions}
        onChange={(e) => setCautions(e.target.value)}
      />
      <ProblemNote error={change.error ?? retire.error} />
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        <Button type="submit" variant="contained" disabled={change.isPending}>
          Save
        </Button>
        <Button onClick={onCancel}>Cancel</Button>
        <Box sx={{ flexGrow: 1 }} />
        <TextField label="Why it is retired" value={reason} onChange={(e) => setReason(e.target.value)} />
        <Button
          color="error"
          disabled={!reason.trim() || retire.isPending}
          title="It leaves the lists; its record stays"
          onClick={() => retire.mutate()}
        >
          Retire
        </Button>
      </Box>
    </Box>
  );
}

/** What stands on the lines of a field, empty ones left out. */
export const lines = (text: string): string[] =>
  text
    .split('\n')
    .map((l) => l.trim())
    .filter(Boolean);
