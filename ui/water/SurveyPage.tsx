'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { WaterView } from '@/contract/water';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { elevationsOf, reduceSheet, sheetFault, type LevellingSheet } from '@/core/water/levelling';
import { elevationAt } from '@/core/water/measuringPoint';
import { metresOf } from '@/core/water/metres';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { newId } from '../shared/api';
import { InstantField } from '../shared/DateFields';
import PageLink from '../shared/PageLink';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { useMoment } from '../shared/useNow';
import { StationHead } from '../station/StationHead';
import { SheetTable } from './SheetTable';
import { useWater } from './useWater';

interface TypedRow {
  readonly key: string;
  readonly point: string;
  readonly back: string;
  readonly between: string;
  readonly fore: string;
}
const emptyRow = (): TypedRow => ({ key: newId(), point: '', back: '', between: '', fore: '' });
const sights = [
  ['back', 'Back, m'],
  ['between', 'Between, m'],
  ['fore', 'Fore, m'],
] as const;

/** A levelling sheet, reduced while it is typed. */
export function SurveyPage({ initial }: { initial: WaterView }) {
  const { view, error, changed } = useWater(initial);
  const router = useRouter();
  const [rows, setRows] = useState<TypedRow[]>(() => [emptyRow(), emptyRow()]);
  const [start, setStart] = useState('');
  const [end, setEnd] = useState('');
  const [by, setBy] = useState('');
  const [note, setNote] = useState('');
  const [at, setAt] = useMoment();
  const [kept, setKept] = useState('');
  const points = view.points.filter((p) => !p.retiredAt);
  const save = useFieldWrite<'levelSurvey'>(async () => {
    await changed();
    router.push(`/stations/${view.stationId}/water/points`);
  });
  const first = rows[0]!.point;
  const onFile = elevationAt(view.elevations, first, at);
  const sheet = sheetFrom(
    rows,
    start.trim() === '' ? (onFile?.elevation ?? Number.NaN) : metresOf(start),
    end,
  );
  const fault = sheetFault(sheet);
  const reduced = fault ? null : reduceSheet(sheet);
  const isPoint = (name: string) => points.some((p) => p.id === name);
  const outcome = reduced ? elevationsOf(reduced, isPoint) : [];
  const tooMuch =
    reduced !== null && reduced.misclosure !== null && Math.abs(reduced.misclosure) > reduced.allowed;
  const change = (i: number, to: Partial<TypedRow>) =>
    setRows(rows.map((r, n) => (n === i ? { ...r, ...to } : r)));
  // What the circuit begins from is put on file with it where nothing is known of it yet.
  const stated =
    isPoint(first) && !onFile && Number.isFinite(sheet.start)
      ? [{ pointId: first, elevation: sheet.start, accuracy: 0.002 }]
      : [];
  const send = () =>
    save.mutate({
      kind: 'levelSurvey',
      stationId: view.stationId,
      where: view.code,
      zone: view.zone,
      body: {
        surveyId: newId(),
        surveyedBy: by.trim(),
        note: note.trim(),
        sheet,
        stated,
        keptBecause: tooMuch ? kept.trim() : null,
        occurredAt: new Date(at).toISOString(),
      },
    });
  return (
    <>
      <StationHead stationId={view.stationId} code={`${view.code} · ${view.site}`} name={view.name}>
        <Button component={PageLink} href={`/stations/${view.stationId}/water/points`}>
          Points, datum, surveys
        </Button>
      </StationHead>
      <ProblemNote error={error} />
      <Typography variant="h2" sx={{ mb: 1 }}>
        Levelling sheet
      </Typography>
      <Typography variant="body2" sx={{ mb: 2 }}>
        Begin with a backsight to a point whose elevation is known, close on it or on another. Readings of the
        staff in metres.
      </Typography>
      <Box
        component="form"
        aria-label="Levelling sheet"
        onSubmit={(e) => {
          e.preventDefault();
          send();
        }}
        sx={{ display: 'grid', gap: 2, gridTemplateColumns: 'minmax(0, 1fr)' }}
      >
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'start' }}>
          <TextField
            size="medium"
            label="Levelled by"
            value={by}
            onChange={(e) => setBy(e.target.value)}
            sx={{ width: 200 }}
          />
          <InstantField label="Levelled at" value={at} zone={view.zone} onChange={setAt} />
          <TextField
            size="medium"
            label="Elevation of the first point, m"
            value={start}
            placeholder={onFile ? formatValue(onFile.elevation, 4) : ''}
            helperText={onFile ? 'On file; type another to go by that' : 'Known from elsewhere'}
            onChange={(e) => setStart(e.target.value)}
            slotProps={{ inputLabel: { shrink: true }, htmlInput: { inputMode: 'decimal' } }}
            sx={{ width: 260 }}
          />
          <TextField
            size="medium"
            label="Known elevation of the last, m"
            value={end}
            error={end.trim() !== '' && !Number.isFinite(metresOf(end))}
            helperText="Empty: it closes on the first"
            onChange={(e) => setEnd(e.target.value)}
            slotProps={{ htmlInput: { inputMode: 'decimal' } }}
            sx={{ width: 260 }}
          />
        </Box>
        <Box sx={{ display: 'grid', gap: 1 }}>
          {rows.map((r, i) => (
            <Box
              key={r.key}
              role="group"
              aria-label={`Row ${i + 1}`}
              sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}
            >
              <PointField
                row={r}
                points={points}
                label={`Point ${i + 1}`}
                onChange={(point) => change(i, { point })}
              />
              {sights.map(([field, label]) => (
                <TextField
                  key={field}
                  size="medium"
                  label={label}
                  value={r[field]}
                  error={r[field].trim() !== '' && !Number.isFinite(metresOf(r[field]))}
                  onChange={(e) => change(i, { [field]: e.target.value })}
                  slotProps={{ htmlInput: { inputMode: 'decimal' } }}
                  sx={{ width: 118 }}
                />
              ))}
              {rows.length > 2 && (
                <Button
                  aria-label={`Leave out row ${i + 1}`}
                  onClick={() => setRows(rows.filter((_, n) => n !== i))}
                >
                  Leave out
                </Button>
              )}
            </Box>
          ))}
          <Button sx={{ ...gloved, justifySelf: 'start' }} onClick={() => setRows([...rows, emptyRow()])}>
            Another row
          </Button>
        </Box>
        <Box role="status" aria-label="Reduced">
          {fault ? (
            <Typography color="text.secondary">
              {fault.says} {fault.remedy}
            </Typography>
          ) : (
            reduced && (
              <>
                <SheetTable view={view} reduced={reduced} />
                <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', mt: 1, flexWrap: 'wrap' }}>
                  <StateMark
                    state={reduced.misclosure === null ? 'missing' : tooMuch ? 'displaced' : 'sound'}
                  />
                  <Typography>
                    {reduced.misclosure === null
                      ? 'It closes on nothing known: nothing tells a slip.'
                      : `Misclosure ${formatDifference(reduced.misclosure, 4)} m, allowed ±${formatValue(reduced.allowed, 4)} m over ${reduced.setUps} set-ups.`}
                  </Typography>
                </Box>
                {outcome.map((o) => (
                  <Typography key={o.point}>
                    <b>{points.find((p) => p.id === o.point)?.code}</b> {formatValue(o.elevation, 4)} ±{' '}
                    {formatValue(o.accuracy, 4)} m{before(view, o, at)}
                  </Typography>
                ))}
              </>
            )
          )}
        </Box>
        {tooMuch && (
          <TextField
            size="medium"
            label="Why it is kept all the same"
            value={kept}
            onChange={(e) => setKept(e.target.value)}
          />
        )}
        <TextField size="medium" label="Note" value={note} onChange={(e) => setNote(e.target.value)} />
        <ProblemNote error={save.error} />
        <Button
          type="submit"
          variant="contained"
          sx={{ ...gloved, justifySelf: 'start' }}
          disabled={
            !reduced ||
            by.trim() === '' ||
            outcome.length + stated.length === 0 ||
            (tooMuch && kept.trim().length < 3) ||
            save.isPending
          }
        >
          Keep this survey
        </Button>
      </Box>
    </>
  );
}

/** A measuring point, or a turning point by its name. */
function PointField({
  row,
  points,
  label,
  onChange,
}: {
  row: TypedRow;
  points: WaterView['points'];
  label: string;
  onChange: (point: string) => void;
}) {
  const isTurning = !points.some((p) => p.id === row.point);
  return (
    <>
      <TextField
        select
        size="medium"
        label={label}
        value={isTurning ? 'turning' : row.point}
        onChange={(e) => onChange(e.target.value === 'turning' ? '' : e.target.value)}
        sx={{ width: 190 }}
      >
        <MenuItem value="turning" sx={{ minHeight: 48 }}>
          turning point
        </MenuItem>
        {points.map((p) => (
          <MenuItem key={p.id} value={p.id} sx={{ minHeight: 48 }}>
            {p.code} {p.name}
          </MenuItem>
        ))}
      </TextField>
      {isTurning && (
        <TextField
          size="medium"
          label="Its name"
          value={row.point}
          onChange={(e) => onChange(e.target.value)}
          sx={{ width: 110 }}
        />
      )}
    </>
  );
}

const sheetFrom = (rows: readonly TypedRow[], start: number, end: string): LevellingSheet => ({
  start,
  end: end.trim() === '' ? null : metresOf(end),
  rows: rows.map(({ point, back, between, fore }) => ({
    point: point.trim(),
    back: sightOf(back),
    between: sightOf(between),
    fore: sightOf(fore),
  })),
});
const sightOf = (text: string): number | null => (text.trim() === '' ? null : metresOf(text));

/** How a point lies beside the survey before. */
function before(
  view: WaterView,
  { point, elevation }: { point: string; elevation: number },
  at: number,
): string {
  const old = elevationAt(view.elevations, point, at);
  return old ? `, ${formatDifference(elevation - old.elevation, 4)} m from the survey before` : '';
}
