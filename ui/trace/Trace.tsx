'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ToggleButton from '@mui/material/ToggleButton';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useQuery, useQueryClient } from '@tanstack/react-query';
import { useSearchParams } from 'next/navigation';
import { useCallback, useMemo, useState } from 'react';
import type { ChannelVerifyView, TraceSeriesView, TraceView } from '@/contract/recordViews';
import { formatAge, formatDifference } from '@/core/quantity/format';
import type { QualityThresholds } from '@/core/quality/tests';
import { changes, correctedBy, correctionAt, type Correction } from '@/core/series/correction';
import { load } from '../shared/api';
import PageLink from '../shared/PageLink';
import { ProblemNote } from '../shared/ProblemNote';
import { timeText } from '../shared/time';
import { useKeys } from '../shared/useKeys';
import { StationHead } from '../station/StationHead';
import { LayerStrip } from './LayerStrip';
import { Overlay } from './Overlay';
import { limitLines } from './limitLines';
import { axisNote, TracePanel, type PanelSeries } from './TracePanel';
import { VerifyRecord } from './VerifyRecord';
import type { Span } from './verifyProps';
import { WindowBar } from './WindowBar';

/** One to six channels over a window that lives in the address, with what lies over them and what can be laid. */
export function Trace({ initial, others: initialOthers }: { initial: TraceView; others: readonly string[] }) {
  const client = useQueryClient();
  const params = useSearchParams();
  const first = initial.series[0]!;
  const base = `/api/v1/stations/${first.stationId}/channels/${first.channelId}`;
  // The address holds the window; what it does not say is as the page was made.
  const instant = (name: string, otherwise: number) => {
    const ms = Date.parse(params.get(name) ?? '');
    return Number.isFinite(ms) ? ms : otherwise;
  };
  const [from, until] = [instant('from', initial.from), instant('until', initial.until)];
  const beside = params.has('from') ? (params.get('with') ?? '') : initialOthers.join(',');
  const others = useMemo(() => beside.split(',').filter(Boolean), [beside]);
  const window_ = `from=${new Date(from).toISOString()}&until=${new Date(until).toISOString()}`;
  const asMade = from === initial.from && until === initial.until && beside === initialOthers.join(',');
  const { data: t = initial, error } = useQuery({
    queryKey: [base, 'trace', window_, beside],
    queryFn: () => load<TraceView>(`${base}/trace?${window_}&pixels=1200&with=${beside}`),
    initialData: asMade ? initial : undefined,
    placeholderData: keepPreviousData,
  });
  const { data: verify } = useQuery({
    queryKey: [base, 'verify'],
    queryFn: () => load<ChannelVerifyView>(`${base}/verify`),
  });
  const [dragging, setDragging] = useState<'zoom' | 'span'>('zoom');
  const [span, setSpan] = useState<Span | null>(null);
  const [proposal, setProposal] = useState<Correction | null>(null);
  const [thresholds, setThresholds] = useState<Partial<QualityThresholds> | null>(null);
  const limits = useMemo(
    () => (thresholds ? limitLines(thresholds, from, until) : []),
    [thresholds, from, until],
  );

  const go = useCallback(
    (a: number, b: number, refs: readonly string[], replace = false) => {
      const query = new URLSearchParams({
        from: new Date(a).toISOString(),
        until: new Date(b).toISOString(),
      });
      if (refs.length) query.set('with', refs.join(','));
      const address = `/stations/${first.stationId}/trace/${first.channelId}?${query}`;
      // The browser's own history: the page is the same, only its window moves.
      if (replace) window.history.replaceState(null, '', address);
      else window.history.pushState(null, '', address);
    },
    [first.stationId, first.channelId],
  );
  const show = useCallback(
    (a: number, b: number, replace = false) => {
      // A minute is the least that makes a window; nothing is drawn beyond a century.
      const middle = (a + b) / 2;
      const half = Math.min(Math.max((b - a) / 2, 30_000), 50 * 365 * 86_400_000);
      go(Math.round(middle - half), Math.round(middle + half), others, replace);
    },
    [go, others],
  );
  const width = until - from;
  useKeys({
    ArrowLeft: () => show(from - width / 2, until - width / 2),
    ArrowRight: () => show(from + width / 2, until + width / 2),
    '+': () => show(from + width / 4, until - width / 4),
    '-': () => show(from - width / 2, until + width / 2),
    s: () => setDragging((d) => (d === 'zoom' ? 'span' : 'zoom')),
    Escape: () => setSpan(null),
  });

  /** Settles when what is shown is what is stored. */
  const changed = async () => {
    setProposal(null);
    await client.invalidateQueries({ queryKey: [base] });
  };
  const series = t.series[0]!;
  const panels = panelsOf(t.series, proposal);
  const height = panels.length === 1 ? 400 : panels.length === 2 ? 250 : 190;
  return (
    <>
      <StationHead stationId={series.stationId} code={series.stationCode} name={series.name}>
        <Button component={PageLink} href={`/stations/${series.stationId}/watch/${series.channelId}`}>
          Watch
        </Button>
        <Button component="a" href={`${base}/trace.csv?${window_}&with=${beside}`} download>
          Download CSV
        </Button>
        <Button component="a" href={`${base}/trace.json?${window_}&with=${beside}`} download>
          JSON
        </Button>
      </StationHead>
      <WindowBar from={from} until={until} zone={t.siteZone} onShow={show} />
      <ProblemNote error={error} />
      {panels.map((panel) => (
        <Box key={panel[0]!.series.unit}>
          {/* The names of checks and adjustments stand above the plot: where there are any, it begins lower. */}
          <Typography
            variant="body2"
            sx={{
              fontWeight: 600,
              mb: panel[0]!.index === 0 && panel[0]!.series.markers.length > 0 ? 0 : -2.5,
            }}
          >
            {panel[0]!.series.unit}
            <Box component="span" sx={{ fontWeight: 400, ml: 1.5, color: 'text.secondary' }}>
              {axisNote(panel)}
            </Box>
            {t.series.length > 1 && (
              <Box component="span" sx={{ fontWeight: 400, ml: 2 }}>
                {panel.map((p) => `${p.index + 1} ${p.series.stationCode} ${p.series.name}`).join(' · ')}
              </Box>
            )}
          </Typography>
          <TracePanel
            panel={panel}
            from={from}
            until={until}
            zone={t.siteZone}
            height={height}
            dragging={dragging}
            span={span}
            limits={panel[0]!.index === 0 ? limits : []}
            onDrag={(a, b, asSpan) => (asSpan ? setSpan({ from: a, until: b }) : show(a, b))}
            onWheel={(factor, about) =>
              show(about - (about - from) * factor, about + (until - about) * factor)
            }
          />
        </Box>
      ))}
      {series.points.length === 0 && (
        <Typography sx={{ py: 3, textAlign: 'center' }}>
          Nothing of this channel is stored in this window.
        </Typography>
      )}
      <LayerStrip series={series} from={from} until={until} />
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center', mb: 1 }}>
        <ToggleButton
          value="span"
          selected={dragging === 'span'}
          size="small"
          onChange={() => setDragging(dragging === 'zoom' ? 'span' : 'zoom')}
        >
          Drag chooses a span
        </ToggleButton>
        <Overlay
          series={t.series}
          verify={verify ?? null}
          others={others}
          onChange={(refs) => go(from, until, refs)}
        />
        {span && (
          <>
            <span>
              Span {timeText(span.from, t.siteZone)} to {timeText(span.until, t.siteZone)}
            </span>
            <Button size="small" onClick={() => setSpan(null)}>
              Clear
            </Button>
          </>
        )}
      </Box>
      <Caption series={series} until={until} zone={t.siteZone} />
      {verify && (
        <VerifyRecord
          base={base}
          series={series}
          verify={verify}
          window={{ from, until }}
          span={span}
          zone={t.siteZone}
          onProposal={setProposal}
          onThresholds={setThresholds}
          onChanged={changed}
        />
      )}
    </>
  );
}

/** Channels of one unit share a panel; a proposed correction is drawn over the first. */
function panelsOf(all: readonly TraceSeriesView[], proposal: Correction | null): PanelSeries[][] {
  const panels = new Map<string, PanelSeries[]>();
  all.forEach((series, index) => {
    const panel = panels.get(series.unit) ?? [];
    const proposed =
      index === 0 && proposal
        ? new Map(
            series.points.flatMap((p) => {
              const correction = correctionAt([proposal], p.t);
              return p.mean === null || !changes(correction)
                ? []
                : [[p.t, correctedBy(correction, p.corrected ?? p.mean)] as const];
            }),
          )
        : undefined;
    panel.push({ series, index, ...(proposed && { proposed }) });
    panels.set(series.unit, panel);
  });
  return [...panels.values()];
}

function Caption({ series: s, until, zone }: { series: TraceSeriesView; until: number; zone: string }) {
  const n = s.points.reduce((sum, p) => sum + p.n, 0);
  const what = {
    mean: 'band from lowest to highest, line at the mean',
    total: 'totals',
    circular: 'mean directions',
  }[s.aggregate];
  const isDoubtful = s.points.some((p) => p.uncertainty !== undefined);
  return (
    <Typography variant="body2" color="text.secondary">
      {s.derived && (
        <Box component="span" sx={{ color: 'text.primary' }}>
          Reckoned at their common stamps, from corrected values: {s.derived}.{' '}
        </Box>
      )}
      {n} {s.derived ? 'values' : 'logged values'},{' '}
      {s.width < 3600
        ? `drawn by ${formatAge(s.width)}`
        : `drawn by ${s.width % 86_400 === 0 ? `${s.width / 86_400} d` : `${s.width / 3600} h`}`}
      : {what}
      {isDoubtful && ', shaded what it is good to (95 %: section, k, level and velocity together)'}. Stamps as
      they were stored, shown at {timeText(until, zone).slice(-6)}.
      {s.clockDifference !== null && Math.abs(s.clockDifference) > 30 && (
        <b>
          {' '}
          The logger’s clock was {formatAge(s.clockDifference)} {s.clockDifference > 0 ? 'fast' : 'slow'} (
          {formatDifference(s.clockDifference, 0)} s) when last compared: stamps are off by as much unless
          corrected.
        </b>
      )}
    </Typography>
  );
}
