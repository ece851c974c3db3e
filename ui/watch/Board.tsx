'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useSearchParams } from 'next/navigation';
import { useRef } from 'react';
import type { BoardChannel, BoardView } from '@/contract/watch';
import { groupBy } from '@/core/groupBy';
import { formatAge, formatValue } from '@/core/quantity/format';
import { quantityOf } from '@/core/quantity/quantity';
import PageLink from '../shared/PageLink';
import { ProblemNote } from '../shared/ProblemNote';
import { secondsSince, timeText } from '../shared/time';
import { gloved } from '../shared/theme';
import { useNow } from '../shared/useNow';
import { useView } from '../shared/useView';
import { LadderDrawing } from './LadderDrawing';
import { WatchHead } from './WatchHead';
import { ZoneMark } from './ZoneMark';
import { weightOfZone, zoneOfChannel } from './zone';

/** A value older than so many intervals is called old. */
const oldIntervals = 2.5;

/** What is happening now: everything that is watched, in one drawing for all quantities. */
export function Board({ initial }: { initial: BoardView }) {
  const { data, error } = useView('/api/v1/watch', initial, 15_000);
  const board = useRef<HTMLDivElement>(null);
  const params = useSearchParams();
  const order = params.get('order') === 'station' ? 'station' : 'worst';
  const isDense = params.get('dense') === '1';
  const only = params.get('station');
  const change = (name: string, value: string | null) => {
    const next = new URLSearchParams(window.location.search);
    if (value === null) next.delete(name);
    else next.set(name, value);
    window.history.replaceState(null, '', next.size ? `/watch?${next}` : '/watch');
  };
  const channels = data.channels.filter((c) => !only || c.stationCode === only);
  const sorted =
    order === 'station'
      ? channels
      : [...channels].sort((a, b) => weightOfZone(zoneOfChannel(b)) - weightOfZone(zoneOfChannel(a)));
  const groups = order === 'station' ? [...groupBy(sorted, (c) => c.stationCode)] : [['', sorted] as const];
  const rings = channels.filter((c) => c.ringing.length > 0).length;
  return (
    <>
      <WatchHead title="Watch" here="/watch">
        <Button sx={gloved} onClick={() => void board.current?.requestFullscreen()}>
          Full screen
        </Button>
      </WatchHead>
      <ProblemNote error={error} />
      <Box ref={board} sx={{ bgcolor: 'background.default', '&:fullscreen': { p: 2, overflow: 'auto' } }}>
        <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'center', mb: 1 }}>
          <Typography role="status" sx={{ flexGrow: 1, fontWeight: 600 }}>
            {channels.length === 0
              ? 'Nothing is watched'
              : `${channels.length} watched, ${rings === 0 ? 'nothing rings' : rings === 1 ? '1 rings' : `${rings} ring`}`}
            {only ? ` at ${only}` : ''}
          </Typography>
          <ToggleButtonGroup
            exclusive
            size="small"
            aria-label="Order"
            value={order}
            onChange={(_, v: string | null) => v && change('order', v === 'worst' ? null : v)}
          >
            <ToggleButton value="worst">Worst first</ToggleButton>
            <ToggleButton value="station">By station</ToggleButton>
          </ToggleButtonGroup>
          <ToggleButton
            size="small"
            value="dense"
            selected={isDense}
            onChange={() => change('dense', isDense ? null : '1')}
          >
            Dense
          </ToggleButton>
          {only && (
            <Button size="small" onClick={() => change('station', null)}>
              All stations
            </Button>
          )}
        </Box>
        {channels.length === 0 && <NothingYet />}
        {groups.map(([code, mine]) => (
          <Box component="section" key={code} aria-label={code || 'Channels'} sx={{ mb: 2 }}>
            {code && (
              <Typography variant="h2" sx={{ mt: 1 }}>
                <Link component="button" sx={{ font: 'inherit' }} onClick={() => change('station', code)}>
                  {code}
                </Link>{' '}
                · {mine[0]!.site}
              </Typography>
            )}
            <Box
              component="ul"
              sx={{
                listStyle: 'none',
                p: 0,
                m: 0,
                display: 'grid',
                gridTemplateColumns: `repeat(auto-fill, minmax(min(100%, ${isDense ? 270 : 420}px), 1fr))`,
                columnGap: 3,
              }}
            >
              {mine.map((c) => (
                <BoardRow
                  key={c.channelId}
                  channel={c}
                  isDense={isDense}
                  isAlone={!code}
                  initialNow={data.at}
                />
              ))}
            </Box>
          </Box>
        ))}
      </Box>
    </>
  );
}

function NothingYet() {
  return (
    <Typography sx={{ maxWidth: 680 }}>
      No channel is watched yet. Open a channel’s trace from{' '}
      <Link component={PageLink} href="/verify">
        Verify
      </Link>{' '}
      and press <i>Watch</i>: there limits are tried on the recorded past before anything rings.
    </Typography>
  );
}

function BoardRow({
  channel,
  isDense,
  isAlone,
  initialNow,
}: {
  channel: BoardChannel;
  isDense: boolean;
  /** Its station does not stand above it. */
  isAlone: boolean;
  initialNow: number;
}) {
  const now = useNow(initialNow, 5000);
  const q = quantityOf(channel.quantity);
  const zone = zoneOfChannel(channel);
  const age = channel.at === null ? null : Math.max(0, (now - channel.at) / 1000);
  const isOld = age !== null && channel.interval !== null && age > oldIntervals * channel.interval;
  const lag = channel.at !== null && channel.arrived !== null ? (channel.arrived - channel.at) / 1000 : null;
  return (
    <Box
      component="li"
      sx={{
        borderTop: 1,
        borderColor: 'divider',
        py: 1,
        display: 'grid',
        gridTemplateColumns: isDense ? 'minmax(0, 1fr)' : 'minmax(0, 5fr) minmax(0, 6fr)',
        gap: isDense ? 0.25 : 1.5,
        alignItems: 'center',
      }}
    >
      <Box sx={{ minWidth: 0 }}>
        <Typography variant="body2">
          {isAlone && (
            <>
              <Link component={PageLink} href={`/stations/${channel.stationId}`} color="inherit">
                {channel.stationCode}
              </Link>
              {' · '}
            </>
          )}
          <Link
            component={PageLink}
            href={`/stations/${channel.stationId}/watch/${channel.channelId}`}
            color="inherit"
          >
            {channel.name}
          </Link>
        </Typography>
        <Typography sx={{ fontSize: isDense ? '1.35rem' : '1.9rem', fontWeight: 600, lineHeight: 1.15 }}>
          {channel.value === null ? '–' : formatValue(channel.value, q.decimals)}{' '}
          <Box component="span" sx={{ fontSize: '1rem', fontWeight: 400 }}>
            {q.unit}
          </Box>
        </Typography>
        <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
          <ZoneMark zone={zone} />
          <Typography variant="body2" sx={{ fontWeight: 600 }} suppressHydrationWarning>
            {zone.word}
            {zone.since ? ` for ${formatAge(Math.max(0, secondsSince(zone.since, now)))}` : ''}
          </Typography>
        </Box>
        <Typography variant="caption" color="text.secondary" component="p" suppressHydrationWarning>
          {age === null ? (
            'no value yet'
          ) : (
            <span title={timeText(channel.at!, channel.zone)}>
              {isOld ? <b>old: {formatAge(age)}</b> : `${formatAge(age)} old`}
            </span>
          )}
          {lag !== null && lag > 2 * (channel.interval ?? 0) && ` · came ${formatAge(lag)} late`}
          {channel.shelvedUntil && ' · shelved'}
          {channel.ringing.some((r) => r.acknowledged) && ' · acknowledged'}
          {channel.proved === 'never' && channel.armed && ' · never proved'}
          {channel.proved === 'other limits' && ' · proved by other limits'}
        </Typography>
      </Box>
      <LadderDrawing channel={channel} zone={zone} now={now} />
    </Box>
  );
}
