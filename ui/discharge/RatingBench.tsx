'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useMemo, useState } from 'react';
import type { DischargeView, SetRating } from '@/contract/discharge';
import { reckonSheet } from '@/core/discharge/gaugingSheet';
import { fitRating, gaugingsAtOdds, shiftOf, type RatingSegment } from '@/core/discharge/rating';
import { formatDifference, formatValue, roundTo } from '@/core/quantity/format';
import { metresOf } from '@/core/water/metres';
import { newId, send } from '../shared/api';
import { InstantField } from '../shared/DateFields';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';
import { useMoment } from '../shared/useNow';
import { TakeBack } from '../shared/TakeBack';
import { timeText } from '../shared/time';
import { RatingDrawing } from './RatingDrawing';
import { RatingTable, type Rated } from './RatingTable';

/** Discharge by level alone: a power law through the gaugings, reach by reach. */
export function RatingBench({ view, onChanged }: { view: DischargeView; onChanged: () => Promise<void> }) {
  const may = useMay('mark');
  const kept = view.ratings.at(-1) ?? null;
  const [zero, setZero] = useState('');
  const [breaks, setBreaks] = useState('');
  const [shift, setShift] = useState(kept ? String(kept.shift) : '0');
  const gaugings = useMemo(
    () =>
      view.gaugings.map((gauging): Rated => {
        const { discharge, U, sum } = reckonSheet(gauging.sheet);
        return { gauging, discharge, U, sum, level: gauging.level };
      }),
    [view.gaugings],
  );
  const levels = breaks
    .split(/[;\s]+/)
    .filter((b) => b !== '')
    .map(metresOf);
  const fit = fitOf(gaugings, zero.trim() === '' ? null : metresOf(zero), levels);
  const added = metresOf(shift);
  const odd = gaugingsAtOdds(gaugings);
  const segments = fit.segments ?? kept?.segments ?? null;
  return (
    <Box component="section" aria-label="Rating by level">
      <Typography variant="h2">Rating by level</Typography>
      {kept ? (
        <Typography color="text.secondary">
          Rating {kept.number} holds from {timeText(kept.from, view.zone)}, by {kept.by}: {kept.note}
        </Typography>
      ) : (
        <Typography color="text.secondary">
          None on file yet. It is fitted through the gaugings entered below.
        </Typography>
      )}
      {odd && (
        <Typography role="alert" sx={{ my: 1 }}>
          At {formatValue(odd[0].level, 2)} m two gaugings lie further apart than both may be off: a level
          alone does not say what flows here.
        </Typography>
      )}
      <Box sx={{ overflowX: 'auto', maxWidth: 900 }}>
        <RatingDrawing
          gaugings={gaugings}
          segments={segments}
          kept={kept}
          shift={Number.isFinite(added) ? added : 0}
          level={view.record.level.at(-1) ?? null}
        />
      </Box>
      {may && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start', mt: 1 }}>
          <TextField
            label="Level of no flow, m"
            value={zero}
            helperText="Empty: found with the fit"
            onChange={(e) => setZero(e.target.value)}
            sx={{ width: 190 }}
          />
          <TextField
            label="Another law from, m"
            value={breaks}
            helperText="Levels, if any"
            onChange={(e) => setBreaks(e.target.value)}
            sx={{ width: 190 }}
          />
          <TextField
            label="Shift, m"
            value={shift}
            error={!Number.isFinite(added)}
            helperText={gaugings.length > 0 && segments ? lastShift(gaugings, segments) : ' '}
            onChange={(e) => setShift(e.target.value)}
            sx={{ width: 230 }}
          />
        </Box>
      )}
      <Box role="status" aria-label="Fit">
        {fit.problem ? (
          <Typography>{fit.problem}</Typography>
        ) : (
          fit.segments && (
            <>
              {fit.segments.map((s) => (
                <Typography key={String(s.from)}>
                  <Sum>
                    Q = {formatValue(s.a, 3)} · (h − {formatValue(s.zero, 3)})^{formatValue(s.b, 3)}
                    {s.from !== null && ` from ${formatValue(s.from, 3)} m`}
                  </Sum>
                </Typography>
              ))}
              <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
                <StateMark state={odd ? 'displaced' : 'sound'} />
                <Typography>
                  {fit.scatter === null
                    ? 'As many unknowns as gaugings: nothing tells how well it fits.'
                    : `The gaugings scatter by ${formatValue(100 * fit.scatter, 1)} % about it.`}
                </Typography>
              </Box>
            </>
          )
        )}
      </Box>
      <RatingTable view={view} rated={gaugings} residuals={fit.residuals} onChanged={onChanged} />
      {may && fit.segments && (
        <Keep
          view={view}
          segments={fit.segments}
          shift={added}
          basedOn={kept?.id ?? null}
          onSaved={onChanged}
        />
      )}
      {may && kept && (
        <TakeBack
          address={`/api/v1/stations/${view.stationId}/discharge/ratings/${kept.id}`}
          onChanged={onChanged}
        />
      )}
    </Box>
  );
}

interface Fit {
  readonly segments: RatingSegment[] | null;
  readonly residuals: readonly (number | null)[];
  readonly scatter: number | null;
  readonly problem: string | null;
}

function fitOf(gaugings: readonly Rated[], zero: number | null, breaks: readonly number[]): Fit {
  const none = { segments: null, residuals: [], scatter: null };
  if (gaugings.length === 0) return { ...none, problem: null };
  if (gaugings.some((g) => g.discharge <= 0))
    return {
      ...none,
      problem: 'A gauging ran against the stream: a level alone does not say what flows here.',
    };
  try {
    return { ...fitRating(gaugings, zero, breaks), problem: null };
  } catch (error) {
    if (!(error instanceof RangeError)) throw error;
    return { ...none, problem: `${error.message[0]!.toUpperCase()}${error.message.slice(1)}.` };
  }
}

/** What would bring the rating to the newest gauging. */
function lastShift(gaugings: readonly Rated[], segments: readonly RatingSegment[]): string {
  const last = gaugings.at(-1)!;
  const its = segments.findLast((s) => s.from !== null && s.from <= last.level) ?? segments[0]!;
  if (!(last.discharge > 0)) return ' ';
  return `The last gauging wants ${formatDifference(shiftOf({ ...its, scatter: null, residuals: [] }, last), 3)}`;
}

function Keep({
  view,
  segments,
  shift,
  basedOn,
  onSaved,
}: {
  view: DischargeView;
  segments: RatingSegment[];
  shift: number;
  basedOn: string | null;
  onSaved: () => Promise<void>;
}) {
  const [from, setFrom] = useMoment();
  const [note, setNote] = useState('');
  const save = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${view.stationId}/discharge/ratings`, {
        ratingId: newId(),
        basedOn,
        segments: segments.map((s) => ({
          from: s.from,
          a: roundTo(s.a, 6),
          b: roundTo(s.b, 6),
          zero: roundTo(s.zero, 4),
        })),
        shift,
        holdsFrom: new Date(from).toISOString(),
        note,
      } satisfies SetRating),
    onSuccess: async () => {
      setNote('');
      await onSaved();
    },
  });
  return (
    <Box
      component="form"
      aria-label="Keep this rating"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mt: 1.5 }}
    >
      <InstantField label="Holds from" value={from} zone={view.zone} onChange={setFrom} />
      <TextField
        label="Why"
        value={note}
        onChange={(e) => setNote(e.target.value)}
        sx={{ width: 300, maxWidth: '100%' }}
      />
      <Button
        type="submit"
        variant="contained"
        sx={gloved}
        disabled={
          note.trim().length < 3 || !Number.isFinite(shift) || !Number.isFinite(from) || save.isPending
        }
      >
        Keep this rating
      </Button>
      <ProblemNote error={save.error} />
    </Box>
  );
}
