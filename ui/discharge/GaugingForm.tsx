'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { AddGauging, DischargeView } from '@/contract/discharge';
import {
  gaugingDoubt,
  gaugingFault,
  reckonSheet,
  sheetNames,
  type GaugingSheet,
} from '@/core/discharge/gaugingSheet';
import { formatValue } from '@/core/quantity/format';
import { newId, send } from '../shared/api';
import { InstantField } from '../shared/DateFields';
import { numberOf } from '../shared/numberOf';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useMoment } from '../shared/useNow';
import { sheetOf, type GaugingDraft } from './gaugingDraft';

type Field = readonly [name: string, label: string];
const U: Field = ['U', 'Good to ±, %'];
const fields: Readonly<Record<GaugingSheet['kind'], readonly Field[]>> = {
  verticals: [],
  slug: [['mass', 'Mass, g'], ['background', 'Background, g/m³'], U],
  rate: [
    ['rate', 'Rate, L/s'],
    ['fed', 'Fed, mg/L'],
    ['plateau', 'Plateau, mg/L'],
    ['background', 'Background, mg/L'],
    U,
  ],
  stated: [['discharge', 'Discharge, m³/s'], U, ['by', 'By']],
};
const rowsOf: Partial<Record<GaugingSheet['kind'], Field>> = {
  verticals: ['rows', 'Verticals: across, depth, velocity'],
  slug: ['rows', 'Passage: s, g/m³'],
};
const hour = 3_600_000;

/** A gauging by its sheet, with its sum before it is kept. */
export function GaugingForm({ view, onSaved }: { view: DischargeView; onSaved: () => Promise<void> }) {
  const [draft, setDraft] = useState<GaugingDraft>({ kind: 'verticals', method: 'mid', typed: {} });
  const [until, setUntil] = useMoment();
  const [from, setFrom] = useMoment(hour);
  const [own, setOwn] = useState<Readonly<Record<string, string>> | null>(null);
  const [velocityPercent, setVelocityPercent] = useState('3');
  const sheet = sheetOf(draft);
  const fault = sheet && gaugingFault(sheet);
  const result = sheet && !fault ? reckonSheet(sheet) : null;
  const doubt = sheet && !fault ? gaugingDoubt(sheet) : null;
  const type = (name: string) => (value: string) =>
    setDraft({ ...draft, typed: { ...draft.typed, [name]: value } });
  const figure = (name: string) => numberOf(own?.[name] ?? '');
  const meanwhile = own && {
    level: figure('level'),
    levelChange: figure('change'),
    velocity: view.velocity ? figure('velocity') : null,
  };
  const velocityUncertainty = numberOf(velocityPercent) / 100;
  const add = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${view.stationId}/discharge/gaugings`, {
        gaugingId: newId(),
        sheet: sheet!,
        begunAt: new Date(from).toISOString(),
        endedAt: new Date(until).toISOString(),
        meanwhile,
        velocityUncertainty,
        note: '',
      } satisfies AddGauging),
    onSuccess: async () => {
      setDraft({ ...draft, typed: {} });
      await onSaved();
    },
  });
  const rows = rowsOf[draft.kind];
  return (
    <Box
      component="form"
      aria-label="Enter a gauging"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate();
      }}
      sx={{ display: 'grid', gap: 1, mt: 1.5, gridTemplateColumns: 'minmax(0, 1fr)' }}
    >
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <TextField
          select
          label="How"
          value={draft.kind}
          onChange={(e) => setDraft({ ...draft, kind: e.target.value as GaugingSheet['kind'], typed: {} })}
          sx={{ width: 270 }}
        >
          {(Object.keys(sheetNames) as GaugingSheet['kind'][]).map((k) => (
            <MenuItem key={k} value={k}>
              {sheetNames[k]}
            </MenuItem>
          ))}
        </TextField>
        {draft.kind === 'verticals' && (
          <TextField
            select
            label="Between verticals"
            value={draft.method}
            onChange={(e) => setDraft({ ...draft, method: e.target.value as 'mid' })}
            sx={{ width: 170 }}
          >
            <MenuItem value="mid">mid-section</MenuItem>
            <MenuItem value="mean">mean-section</MenuItem>
          </TextField>
        )}
      </Box>
      {rows && (
        <TextField
          label={rows[1]}
          multiline
          minRows={4}
          maxRows={12}
          value={draft.typed.rows ?? ''}
          helperText={
            draft.kind === 'verticals'
              ? 'One vertical a line, edges of depth 0 first and last: 1.0 0.50 0.30. In several depths from the surface down 0.36/0.24, or their mean and how many: 0.30 2. Against the stream negative.'
              : 'One reading a line, s since it was poured in.'
          }
          onChange={(e) => type('rows')(e.target.value)}
        />
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        {fields[draft.kind].map(([name, label]) => (
          <TextField
            key={name}
            label={label}
            value={draft.typed[name] ?? ''}
            onChange={(e) => type(name)(e.target.value)}
            sx={{ width: 150 }}
          />
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <InstantField label="Began" value={from} zone={view.zone} onChange={setFrom} />
        <InstantField label="Ended" value={until} zone={view.zone} onChange={setUntil} />
        {view.velocity && (
          <TextField
            label="Velocity good to ±, %"
            value={velocityPercent}
            onChange={(e) => setVelocityPercent(e.target.value)}
            sx={{ width: 170 }}
          />
        )}
      </Box>
      {own ? (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          {(
            [
              ['level', 'Mean level, m'],
              ['change', 'Level went by, m'],
              ...(view.velocity ? ([['velocity', 'Mean velocity, m/s']] as const) : []),
            ] as const
          ).map(([name, label]) => (
            <TextField
              key={name}
              label={label}
              value={own[name] ?? ''}
              onChange={(e) => setOwn({ ...own, [name]: e.target.value })}
              sx={{ width: 160 }}
            />
          ))}
          <Button onClick={() => setOwn(null)}>From the record</Button>
        </Box>
      ) : (
        <Typography variant="body2">
          {view.velocity ? 'Level and velocity' : 'The level'} meanwhile: from the record.{' '}
          <Button onClick={() => setOwn({})}>Enter them</Button>
        </Typography>
      )}
      <Box role="status" aria-label="Gauging">
        {fault ? (
          <Typography>{fault}</Typography>
        ) : result ? (
          <Typography sx={{ fontWeight: 600 }}>
            {result.sum}, ± {formatValue(100 * result.U, 1)} %
          </Typography>
        ) : (
          <Typography color="text.secondary">Its sum stands here before it is kept.</Typography>
        )}
        {doubt && <Typography variant="body2">◇ {doubt}</Typography>}
      </Box>
      <ProblemNote error={add.error} />
      <Button
        type="submit"
        sx={{ ...gloved, justifySelf: 'start' }}
        disabled={
          !result ||
          !(from < until) ||
          !(velocityUncertainty >= 0 && velocityUncertainty <= 1) ||
          (meanwhile !== null && Object.values(meanwhile).some((v) => v !== null && !Number.isFinite(v))) ||
          add.isPending
        }
      >
        Keep this gauging
      </Button>
    </Box>
  );
}
