'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ChangeSite } from '@/contract/planRequests';
import type { SetUpView } from '@/contract/planViews';
import { NumberField } from '../shared/NumberField';
import { send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { openForm } from '../shared/theme';
import { lines } from './ChangeStationForm';

/** Name, zone, place and cautions of a site. */
export function SiteForm({
  site,
  onDone,
  onCancel,
}: {
  site: SetUpView['sites'][number];
  onDone: () => void;
  onCancel: () => void;
}) {
  const [s, setS] = useState({
    name: site.name,
    zone: site.zone,
    note: site.note,
    latitude: site.latitude,
    longitude: site.longitude,
  });
  const [cautions, setCautions] = useState(site.cautions.join('\n'));
  const change = useMutation({
    mutationFn: () =>
      send('PUT', `/api/v1/sites/${site.id}`, { ...s, cautions: lines(cautions) } satisfies ChangeSite),
    onSuccess: onDone,
  });
  const field = (label: string, key: 'name' | 'zone' | 'note') => (
    <TextField
      label={label}
      value={s[key]}
      onChange={(e) => setS({ ...s, [key]: e.target.value })}
      helperText=" "
    />
  );
  return (
    <Box
      component="form"
      noValidate
      aria-label={`Change ${site.name}`}
      sx={openForm}
      onSubmit={(e) => {
        e.preventDefault();
        change.mutate();
      }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
        {field('Name of the site', 'name')}
        {field('Time zone', 'zone')}
        {field('What it is', 'note')}
        <NumberField
          label="Latitude, °"
          value={s.latitude}
          low={-90}
          high={90}
          onChange={(latitude) => setS((now) => ({ ...now, latitude }))}
        />
        <NumberField
          label="Longitude, °"
          value={s.longitude}
          low={-180}
          high={180}
          onChange={(longitude) => setS((now) => ({ ...now, longitude }))}
        />
      </Box>
      <TextField
        multiline
        minRows={2}
        label="Cautions, one to a line"
        value={cautions}
        onChange={(e) => setCautions(e.target.value)}
      />
      <ProblemNote error={change.error} />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" disabled={change.isPending}>
          Save
        </Button>
        <Button onClick={onCancel}>Cancel</Button>
      </Box>
    </Box>
  );
}
