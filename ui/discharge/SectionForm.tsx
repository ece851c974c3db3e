'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { AddSection, DischargeView } from '@/contract/discharge';
import { sectionFault, sectionFromText, wettedAt } from '@/core/discharge/section';
import { formatValue } from '@/core/quantity/format';
import { metresOf } from '@/core/water/metres';
import { newId, send } from '../shared/api';
import { InstantField } from '../shared/DateFields';
import { numberOf } from '../shared/numberOf';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useMoment } from '../shared/useNow';
import { SectionDrawing } from './SectionDrawing';

/** A cross-section, typed, pasted from a spreadsheet or taken from a file: two numbers a line. */
export function SectionForm({
  view,
  text,
  onText: setText,
  onSaved,
}: {
  view: DischargeView;
  text: string;
  onText: (text: string) => void;
  onSaved: () => Promise<void>;
}) {
  const [level, setLevel] = useState('');
  const [from, setFrom] = useMoment();
  const [percent, setPercent] = useState('3');
  const [note, setNote] = useState('');
  const [isToScale, setToScale] = useState(false);
  const { points, wrong } = sectionFromText(text);
  const fault = points && points.length > 0 ? sectionFault(points) : null;
  const isWhole = points !== null && points.length > 0 && !fault;
  const at = metresOf(level);
  const wetted = isWhole && Number.isFinite(at) ? wettedAt(points, at) : null;
  const share = numberOf(percent) / 100;
  const add = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${view.stationId}/discharge/sections`, {
        sectionId: newId(),
        points: points!,
        uncertainty: share,
        holdsFrom: new Date(from).toISOString(),
        note,
      } satisfies AddSection),
    onSuccess: async () => {
      setText('');
      await onSaved();
    },
  });
  return (
    <Box
      component="form"
      aria-label="Enter a section"
      onSubmit={(e) => {
        e.preventDefault();
        add.mutate();
      }}
      sx={{ display: 'grid', gap: 1, mt: 1.5, gridTemplateColumns: 'minmax(0, 1fr)' }}
    >
      <TextField
        label="Points from the left bank: across and elevation, m"
        multiline
        minRows={4}
        maxRows={12}
        value={text}
        error={wrong !== null || fault !== null}
        helperText={
          wrong ??
          (fault
            ? `${fault.says} ${fault.remedy}`
            : 'One point a line: 0.0  3.50. A wall has two at one distance.')
        }
        onChange={(e) => setText(e.target.value)}
      />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button component="label">
          From a file
          <input
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            hidden
            onChange={(e) => {
              const file = e.target.files?.[0];
              e.target.value = '';
              if (file) void file.text().then((t) => setText(t.slice(0, 100_000)));
            }}
          />
        </Button>
        <Button disabled={text === ''} onClick={() => setText('')}>
          Empty it
        </Button>
      </Box>
      {isWhole && (
        <>
          <SectionDrawing points={points} level={Number.isFinite(at) ? at : null} isToScale={isToScale} />
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
            <Button onClick={() => setToScale(!isToScale)}>{isToScale ? 'Stretched' : 'To scale'}</Button>
            <TextField
              label="At a level of, m"
              value={level}
              onChange={(e) => setLevel(e.target.value)}
              sx={{ width: 140 }}
            />
            {wetted && (
              <Typography>
                Area {formatValue(wetted.area, 2)} m², width {formatValue(wetted.width, 2)} m, perimeter{' '}
                {formatValue(wetted.perimeter, 2)} m, mean depth {formatValue(wetted.meanDepth, 2)} m
                {wetted.pieces > 1 && `, in ${wetted.pieces} pieces beside islands`}
                {wetted.isOver && '; above a bank: a wall is assumed there'}
              </Typography>
            )}
          </Box>
        </>
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <InstantField label="Holds from" value={from} zone={view.zone} onChange={setFrom} />
        <TextField
          label="Area good to ±, %"
          value={percent}
          onChange={(e) => setPercent(e.target.value)}
          sx={{ width: 150 }}
        />
        <TextField label="Note" value={note} onChange={(e) => setNote(e.target.value)} />
      </Box>
      <ProblemNote error={add.error} />
      <Button
        type="submit"
        sx={{ ...gloved, justifySelf: 'start' }}
        disabled={!isWhole || !(share >= 0 && share <= 1) || !Number.isFinite(from) || add.isPending}
      >
        Keep this section
      </Button>
    </Box>
  );
}
