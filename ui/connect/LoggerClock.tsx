'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import type { ClockView } from '@/contract/recordViews';
import { formatAge, formatDifference, formatValue } from '@/core/quantity/format';
import { clockTolerance } from '@/core/series/clock';
import { Age } from '../shared/Age';
import { load, newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';
import { secondText, timeText } from '../shared/time';

/** The logger's clock: compared, set, and its drift taken out of the stamps. */
export function LoggerClock({ stationId, onChanged }: { stationId: string; onChanged: () => void }) {
  const path = `/api/v1/stations/${stationId}/clock`;
  const mayMeasure = useMay('measure');
  const mayMark = useMay('mark');
  const { data, error, refetch } = useQuery({ queryKey: [path], queryFn: () => load<ClockView>(path) });
  const act = useMutation({
    mutationFn: (what: 'compare' | 'set' | 'correct') =>
      send<{ state?: string; says?: string | null }>(
        'POST',
        `${path}/${what}`,
        what === 'set' ? { actionId: newId() } : {},
      ),
    onSettled: () => {
      void refetch();
      onChanged();
    },
  });
  const [newest] = data?.comparisons ?? [];
  const right = newest && Math.abs(newest.difference) - newest.uncertainty <= clockTolerance;
  return (
    <Box component="section" aria-label="Logger clock">
      <Typography variant="h2" id="clock" sx={{ mt: 4, mb: 1 }}>
        Logger clock
      </Typography>
      <ProblemNote error={error} />
      {data && !newest && <Typography>Never compared: it is compared at every contact.</Typography>}
      {newest && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
          <StateMark state={right ? 'sound' : 'displaced'} />
          <b>
            {right ? 'Right' : `${formatAge(newest.difference)} ${newest.difference > 0 ? 'fast' : 'slow'}`}
          </b>
          <Sum>
            {formatDifference(newest.difference, 1)} s ± {newest.uncertainty.toFixed(1)} s
          </Sum>
          <span>
            compared <Age at={newest.at} />
          </span>
        </Box>
      )}
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', my: 1.5 }}>
        {mayMeasure && (
          <>
            <Button sx={gloved} disabled={act.isPending} onClick={() => act.mutate('compare')}>
              Compare now
            </Button>
            <Button sx={gloved} disabled={act.isPending} onClick={() => act.mutate('set')}>
              Set the clock
            </Button>
          </>
        )}
      </Box>
      <ProblemNote error={act.error} />
      {act.data?.says && (
        <Typography role="alert">
          {act.data.state}: {act.data.says}
        </Typography>
      )}
      {data?.proposal && (
        <Box sx={{ borderLeft: 4, borderColor: 'warning.main', pl: 2, my: 1.5 }}>
          <Typography>
            Between its comparisons it went from{' '}
            {formatDifference(data.proposal.segments[0]!.fromDifference, 0)} s to{' '}
            {formatDifference(data.proposal.segments.at(-1)!.untilDifference, 0)} s. Taken out of the stamps
            in proportion:
          </Typography>
          {data.proposal.preview.slice(-9).map((p) => (
            <Box key={p.stamp}>
              <Sum>
                {secondText(p.stamp, data.zone)} → {secondText(p.corrected, data.zone)} (
                {formatDifference((p.corrected - p.stamp) / 1000, 0)} s)
              </Sum>
            </Box>
          ))}
          {mayMark && (
            <Button sx={{ ...gloved, mt: 1 }} disabled={act.isPending} onClick={() => act.mutate('correct')}>
              Correct the drift
            </Button>
          )}
        </Box>
      )}
      {data && data.comparisons.length > 0 && (
        <Box component="details" sx={{ mb: 1 }}>
          <summary>The last {data.comparisons.length} comparisons</summary>
          {data.comparisons.map((c) => (
            <ComparisonLine
              key={c.id}
              path={path}
              zone={data.zone}
              comparison={c}
              onChanged={() => {
                void refetch();
                onChanged();
              }}
            />
          ))}
        </Box>
      )}
      {data?.runs.map((r) => (
        <Typography key={r.run} variant="body2" color="text.secondary">
          Clock run {r.run} began {timeText(r.setAt, data.zone)}: set from{' '}
          {secondText(r.stampBefore, data.zone)} to {secondText(r.stampAfter, data.zone)}.
        </Typography>
      ))}
    </Box>
  );
}

/** One comparison; it can be taken back, as when the clock of our own server was wrong. */
function ComparisonLine({
  path,
  zone,
  comparison: c,
  onChanged,
}: {
  path: string;
  zone: string;
  comparison: ClockView['comparisons'][number];
  onChanged: () => void;
}) {
  const mayMeasure = useMay('measure');
  const [asking, setAsking] = useState(false);
  const takeBack = useMutation({
    mutationFn: (reason: string) => send('POST', `${path}/comparisons/${c.id}/take-back`, { reason }),
    onSuccess: onChanged,
  });
  const submit = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    takeBack.mutate(String(new FormData(event.currentTarget).get('reason') ?? ''));
  };
  return (
    <Box sx={{ py: 0.5 }}>
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center', flexWrap: 'wrap' }}>
        <span>{secondText(Date.parse(c.at), zone)}</span>
        <Sum>
          {formatDifference(c.difference, 1)} s ± {formatValue(c.uncertainty, 1)} s
        </Sum>
        {mayMeasure && !asking && (
          <Button size="small" onClick={() => setAsking(true)}>
            Take back
          </Button>
        )}
      </Box>
      {asking && (
        <Box component="form" onSubmit={submit} sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', my: 0.5 }}>
          <TextField
            name="reason"
            label="Why it does not count"
            required
            autoFocus
            sx={{ minWidth: 260 }}
            slotProps={{ htmlInput: { maxLength: 500 } }}
          />
          <Button type="submit" variant="contained" sx={gloved} disabled={takeBack.isPending}>
            Take back
          </Button>
          <Button sx={gloved} onClick={() => setAsking(false)}>
            Leave it
          </Button>
        </Box>
      )}
      <ProblemNote error={takeBack.error} />
    </Box>
  );
}
