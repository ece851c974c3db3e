'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { DateTime } from 'luxon';
import { useRouter } from 'next/navigation';
import { useCallback, useEffect, useState } from 'react';
import type { TraceView } from '@/contract/views';
import { formatAge, formatDifference } from '@/core/quantity/format';
import { load } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { isTyping } from '../shared/Shortcuts';
import { timeText } from '../shared/time';
import { StationHead } from '../station/StationHead';
import { TraceChart } from './TraceChart';

const spans: readonly [string, number][] = [
  ['6 h', 6 / 24],
  ['1 d', 1],
  ['7 d', 7],
  ['30 d', 30],
  ['90 d', 90],
];
const day = 86_400_000;

/** One channel over a window that lives in the address, with what was done to it. */
export function Trace({ initial }: { initial: TraceView }) {
  const router = useRouter();
  const base = `/api/v1/stations/${initial.stationId}/channels/${initial.channelId}`;
  const window_ = `from=${new Date(initial.from).toISOString()}&until=${new Date(initial.until).toISOString()}`;
  const { data: t, error } = useQuery({
    queryKey: [base, window_],
    queryFn: () => load<TraceView>(`${base}/trace?${window_}&pixels=1100`),
    initialData: initial,
  });
  const show = useCallback(
    (from: number, until: number) => {
      const query = new URLSearchParams({
        from: new Date(from).toISOString(),
        until: new Date(until).toISOString(),
      });
      router.push(`/stations/${initial.stationId}/trace/${initial.channelId}?${query}`, { scroll: false });
    },
    [router, initial.stationId, initial.channelId],
  );
  const { from, until } = initial;
  const width = until - from;
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (isTyping(event.target) || event.ctrlKey || event.metaKey) return;
      if (event.key === 'ArrowLeft') show(from - width / 2, until - width / 2);
      if (event.key === 'ArrowRight') show(from + width / 2, until + width / 2);
      if (event.key === '+') show(from + width / 4, until - width / 4);
      if (event.key === '-') show(from - width / 2, until + width / 2);
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [from, until, width, show]);
  const n = t.points.reduce((s, p) => s + p.n, 0);
  return (
    <>
      <StationHead stationId={t.stationId} code={t.stationCode} name={t.name}>
        <Button component="a" href={`${base}/trace.csv?${window_}`} download>
          Download CSV
        </Button>
      </StationHead>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1 }}>
        {spans.map(([label, days]) => (
          <Button key={label} size="small" onClick={() => show(until - days * day, until)}>
            {label}
          </Button>
        ))}
        <Button size="small" aria-label="Earlier" onClick={() => show(from - width / 2, until - width / 2)}>
          ← earlier
        </Button>
        <Button size="small" aria-label="Later" onClick={() => show(from + width / 2, until + width / 2)}>
          later →
        </Button>
        <WindowForm key={window_} from={from} until={until} zone={t.siteZone} onShow={show} />
      </Box>
      <ProblemNote error={error} />
      {t.points.length === 0 ? (
        <Typography sx={{ py: 6, textAlign: 'center' }}>Nothing was collected in this window.</Typography>
      ) : (
        <>
          <Typography variant="body2" sx={{ fontWeight: 600, mb: -2.5 }}>
            {t.unit}
          </Typography>
          <TraceChart trace={t} />
        </>
      )}
      <Typography variant="body2" color="text.secondary">
        {n} logged values,{' '}
        {t.width >= 3600
          ? `drawn by ${t.width === 3600 ? 'hour' : 'day'}: band from lowest to highest, line at the mean`
          : 'each drawn with its extremes'}
        . Stamps are the logger’s own, shown at {timeText(t.until, t.siteZone).slice(-6)}.
        {t.clockDifference !== null && Math.abs(t.clockDifference) > 30 && (
          <b>
            {' '}
            The logger’s clock was {formatAge(t.clockDifference)} {t.clockDifference > 0 ? 'fast' : 'slow'} (
            {formatDifference(t.clockDifference, 0)} s) when last compared: stamps are off by as much.
          </b>
        )}
      </Typography>
      <Box component="ul" sx={{ pl: 2.5 }} aria-label="What was done in this window">
        {t.markers.map((m, i) => (
          <li key={i}>
            {timeText(m.t, t.siteZone)}: {m.text}
          </li>
        ))}
        {t.spans.map((s, i) => (
          <li key={`s${i}`}>
            {timeText(s.from, t.siteZone)} to {timeText(s.until, t.siteZone)}: {s.kind}, {s.reason}
          </li>
        ))}
      </Box>
    </>
  );
}

function WindowForm({
  from,
  until,
  zone,
  onShow,
}: {
  from: number;
  until: number;
  zone: string;
  onShow: (from: number, until: number) => void;
}) {
  const text = (ms: number) => DateTime.fromMillis(ms).setZone(zone).toFormat("yyyy-MM-dd'T'HH:mm");
  const [a, setA] = useState(text(from));
  const [b, setB] = useState(text(until));
  const read = (value: string) => DateTime.fromISO(value, { zone }).toMillis();
  const valid = read(b) > read(a);
  const offset = timeText(until, zone).slice(-6);
  const label = { inputLabel: { shrink: true } };
  return (
    <Box
      component="form"
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}
      onSubmit={(e) => {
        e.preventDefault();
        if (valid) onShow(read(a), read(b));
      }}
    >
      <TextField
        type="datetime-local"
        label={`From (${offset})`}
        value={a}
        onChange={(e) => setA(e.target.value)}
        slotProps={label}
      />
      <TextField
        type="datetime-local"
        label={`Until (${offset})`}
        value={b}
        onChange={(e) => setB(e.target.value)}
        slotProps={label}
        error={!valid}
        helperText={valid ? undefined : 'ends before it begins'}
      />
      <Button type="submit" disabled={!valid}>
        Show
      </Button>
    </Box>
  );
}
