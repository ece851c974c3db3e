'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import visuallyHidden from '@mui/utils/visuallyHidden';
import PageLink from '../shared/PageLink';
import { useRouter } from 'next/navigation';
import { useState, type ReactNode } from 'react';
import type { SmallTraceView } from '@/contract/recordViews';
import type { FindingView, RoundStop, RoundView } from '@/contract/views';
import type { StoneName } from '@/core/trust/finding';
import { Age } from '../shared/Age';
import { Cairn } from '../shared/Cairn';
import { Pager } from '../shared/Pager';
import { ProblemNote } from '../shared/ProblemNote';
import { SmallTrace } from '../shared/SmallTrace';
import { StateMark, stateWord } from '../shared/stateMark';
import { useList } from '../shared/useList';
import { useSmallTraces } from '../shared/useSmallTraces';

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
  const small = useSmallTraces(
    stops.flatMap((s) =>
      s.findings
        .slice(0, 2)
        .flatMap((f) => (f.channelId ? [{ stationId: s.stationId, channelId: f.channelId }] : [])),
    ),
  );
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
          No station yet.{' '}
          <Link component={PageLink} href="/set-up">
            Add the first one under Sites and stations
          </Link>
          .
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
            small={small}
          />
        ))}
      </Box>
      <Pager page={data.page} pages={pages} turn={turn} />
    </>
  );
}

/** One stop in a list: its stones, why it needs someone, what to bring. */
export function Stop({
  stop,
  rank,
  current,
  small,
  children,
}: {
  stop: RoundStop;
  rank: number;
  current: boolean;
  small: ReadonlyMap<string, SmallTraceView>;
  /** What is said below it. */
  children?: ReactNode;
}) {
  const shown = stop.findings.slice(0, 2);
  const more = stop.findings.length - shown.length + stop.more;
  return (
    <Box
      component="li"
      id={`stop-${stop.stationId}`}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '60px 1fr', md: '24px 64px 210px 1fr' },
        columnGap: 2,
        rowGap: 0.5,
        py: 1,
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
        size={60}
        href={(stone) =>
          placeOf(stop.stationId, stone, stop.findings.find((f) => f.stone === stone)?.channelId ?? null)
        }
      />
      <Box>
        <Link
          component={PageLink}
          href={`/stations/${stop.stationId}`}
          sx={{ fontWeight: 600, fontSize: '1.05rem', color: 'text.primary' }}
        >
          {stop.name}
        </Link>
        <Typography variant="caption" component="div" color="text.secondary">
          {stop.site} · {stop.code}
        </Typography>
        <Typography variant="caption" component="div" color="text.secondary">
          {stop.lastContact ? (
            <>
              last contact <Age at={stop.lastContact} />
            </>
          ) : (
            'never contacted'
          )}
        </Typography>
      </Box>
      <Box sx={{ gridColumn: { xs: '1 / -1', md: 'auto' }, minWidth: 0 }}>
        {stop.findings.length === 0 && (
          <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
            <StateMark state="sound" /> All five stones stand: its values can be trusted today.
          </Box>
        )}
        {shown.map((f, i) => (
          <Reason key={i} stationId={stop.stationId} finding={f} trace={small.get(f.channelId ?? '')} wide />
        ))}
        <Typography variant="caption" component="p" sx={{ m: 0 }}>
          {more > 0 && (
            <Link component={PageLink} href={`/stations/${stop.stationId}`} sx={{ mr: 1.5 }}>
              and {more} more
            </Link>
          )}
          {stop.bring.length > 0 && (
            <>
              <b>Bring</b> {stop.bring.join(' · ')}
            </>
          )}
        </Typography>
        {stop.cautions.length > 0 && (
          <Typography variant="caption" component="p" sx={{ m: 0 }}>
            <b aria-label="Caution">⚠</b> {stop.cautions.join(' ')}
          </Typography>
        )}
        {children}
      </Box>
    </Box>
  );
}

/** Why a station needs someone, in a line: what it is, its last days, and the way to the remedy. */
export function Reason({
  stationId,
  finding,
  trace,
  wide = false,
}: {
  stationId: string;
  finding: FindingView;
  trace?: SmallTraceView;
  /** In a line, where there is room for it. */
  wide?: boolean;
}) {
  return (
    <Box
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '20px 1fr', sm: wide ? '20px 1fr 132px 230px' : '20px 1fr' },
        columnGap: 1,
        rowGap: 0.5,
        mb: 0.25,
        alignItems: 'center',
      }}
    >
      <StateMark state={finding.state} />
      <Box sx={{ minWidth: 0, fontWeight: 600 }}>
        {finding.text}
        <Box component="span" sx={visuallyHidden}>
          {' '}
          {finding.stone}, {stateWord[finding.state]}.
        </Box>
      </Box>
      {(trace || wide) && (
        <Box sx={{ gridColumn: { xs: 2, sm: wide ? 3 : 2 } }}>{trace && <SmallTrace trace={trace} />}</Box>
      )}
      <Button
        component={PageLink}
        size="small"
        href={
          finding.code === 'clock-off'
            ? `/stations/${stationId}/connect#clock`
            : finding.code === 'left-open'
              ? `/stations/${stationId}/visit`
              : placeOf(stationId, finding.stone, finding.channelId)
        }
        sx={{
          gridColumn: { xs: 2, sm: wide ? 4 : 2 },
          justifySelf: 'start',
          minHeight: { xs: 44, md: 30 },
          py: 0.25,
          textAlign: 'left',
          lineHeight: 1.2,
          fontSize: '0.85rem',
        }}
      >
        {finding.next}
      </Button>
    </Box>
  );
}
