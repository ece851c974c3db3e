'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import NextLink from 'next/link';
import { useRouter } from 'next/navigation';
import { useState } from 'react';
import type { FindingView, RoundStop, RoundView } from '@/contract/views';
import type { StoneName } from '@/core/trust/finding';
import { Age } from '../shared/Age';
import { Cairn } from '../shared/Cairn';
import { Pager } from '../shared/Pager';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark, stateWord } from '../shared/stateMark';
import { useList } from '../shared/useList';

/** Which part of a station a stone or a finding opens. */
export function placeOf(stationId: string, stone: StoneName, channelId: string | null = null): string {
  const base = `/stations/${stationId}`;
  switch (stone) {
    case 'power and link':
    case 'wiring':
      return `${base}/connect`;
    case 'settings':
      return `${base}/connect#settings`;
    case 'reference':
      return `${base}/check${channelId ? `?channel=${channelId}` : ''}`;
    case 'record':
      return channelId ? `${base}/trace/${channelId}` : base;
  }
}

/** Every stop, worst first: why, what to do next, what to bring. */
export function Round({ initial, asked }: { initial: RoundView; asked: string }) {
  const router = useRouter();
  const { data, error, params, at, pages, change, turn } = useList({
    path: '/',
    api: '/api/v1/round',
    initial,
    asked,
    every: 15_000,
    rowsOf: (list) => list.stops.length,
    idOf: (i, list) => `stop-${list.stops[i]!.stationId}`,
    open: (i, list) => router.push(`/stations/${list.stops[i]!.stationId}`),
  });
  const { stops } = data;
  const [filter, setFilter] = useState(params.get('text') ?? '');

  return (
    <>
      <Box sx={{ display: 'flex', alignItems: 'baseline', gap: 2, flexWrap: 'wrap', mb: 2 }}>
        <Typography variant="h1">Round</Typography>
        <Typography color="text.secondary" sx={{ flexGrow: 1 }}>
          {data.needing} of {data.total} stops need someone, worst first
          {data.pending > 0 && `; ${data.pending} stations are still being reckoned`}
        </Typography>
        <TextField
          label="Filter"
          value={filter}
          onChange={(e) => {
            setFilter(e.target.value);
            change({ text: e.target.value });
          }}
        />
      </Box>
      <ProblemNote error={error} />
      {data.total === 0 && !params.get('text') && (
        <Typography>
          No station yet. An administrator adds the first one with “npm run station -- add”.
        </Typography>
      )}
      {stops.length === 0 && params.get('text') && <Typography>No stop matches “{filter}”.</Typography>}
      <Box component="ol" sx={{ listStyle: 'none', p: 0, m: 0, borderTop: 2, borderColor: 'text.primary' }}>
        {stops.map((s, i) => (
          <Stop
            key={s.stationId}
            stop={s}
            rank={(data.page - 1) * data.pageSize + i + 1}
            current={i === at}
          />
        ))}
      </Box>
      <Pager page={data.page} pages={pages} turn={turn} />
    </>
  );
}

function Stop({ stop, rank, current }: { stop: RoundStop; rank: number; current: boolean }) {
  const shown = stop.findings.slice(0, 3);
  const more = stop.findings.length - shown.length + stop.more;
  return (
    <Box
      component="li"
      id={`stop-${stop.stationId}`}
      sx={{
        display: 'grid',
        gridTemplateColumns: {
          xs: '72px 1fr',
          md: '28px 84px minmax(190px, 1.1fr) minmax(320px, 3fr) minmax(170px, 1.1fr)',
        },
        columnGap: 2,
        rowGap: 1,
        py: 1.5,
        px: 1,
        borderBottom: 1,
        borderColor: 'divider',
        bgcolor: current ? 'ground.skyWash' : undefined,
        alignItems: 'start',
      }}
    >
      <Typography color="text.secondary" sx={{ display: { xs: 'none', md: 'block' }, textAlign: 'right' }}>
        {rank}
      </Typography>
      <Cairn
        cairn={stop.cairn}
        size={76}
        href={(stone) =>
          placeOf(stop.stationId, stone, stop.findings.find((f) => f.stone === stone)?.channelId ?? null)
        }
      />
      <Box>
        <Link
          component={NextLink}
          href={`/stations/${stop.stationId}`}
          sx={{ fontWeight: 600, fontSize: '1.05rem', color: 'text.primary' }}
        >
          {stop.name}
        </Link>
        <Typography variant="body2" color="text.secondary">
          {stop.site} · {stop.code}
        </Typography>
        <Typography variant="caption" color="text.secondary">
          {stop.lastContact ? (
            <>
              last contact <Age at={stop.lastContact} />
            </>
          ) : (
            'never contacted'
          )}
        </Typography>
      </Box>
      <Box sx={{ gridColumn: { xs: '1 / -1', md: 'auto' } }}>
        {stop.findings.length === 0 && (
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <StateMark state="sound" /> All five stones stand: its values can be trusted today.
          </Box>
        )}
        {shown.map((f, i) => (
          <Reason key={i} stationId={stop.stationId} finding={f} />
        ))}
        {more > 0 && (
          <Link component={NextLink} href={`/stations/${stop.stationId}`} variant="body2">
            and {more} more
          </Link>
        )}
        {stop.cautions.length > 0 && (
          <Typography variant="caption" component="p" sx={{ mt: 0.5 }}>
            <b aria-label="Caution">⚠</b> {stop.cautions.join(' ')}
          </Typography>
        )}
      </Box>
      <Box sx={{ gridColumn: { xs: '1 / -1', md: 'auto' } }}>
        {stop.bring.length > 0 && (
          <Typography variant="body2" color="text.secondary">
            Bring
          </Typography>
        )}
        {stop.bring.slice(0, 4).map((b) => (
          <Typography key={b} variant="body2">
            {b}
          </Typography>
        ))}
      </Box>
    </Box>
  );
}

export function Reason({ stationId, finding }: { stationId: string; finding: FindingView }) {
  return (
    <Box sx={{ display: 'flex', gap: 1, mb: 0.75 }}>
      <Box sx={{ pt: '3px' }}>
        <StateMark state={finding.state} />
      </Box>
      <Box>
        <Box component="span" sx={{ fontWeight: 600 }}>
          {finding.text}
        </Box>{' '}
        <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.88rem' }}>
          {finding.stone}, {stateWord[finding.state]}.{' '}
          <Link
            component={NextLink}
            href={
              finding.code === 'clock-off'
                ? `/stations/${stationId}/connect#clock`
                : placeOf(stationId, finding.stone, finding.channelId)
            }
          >
            {finding.next}
          </Link>
        </Box>
      </Box>
    </Box>
  );
}
