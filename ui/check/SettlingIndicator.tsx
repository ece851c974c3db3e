'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { referenceRests, type ReferenceRest } from '@/core/check/referenceRest';
import { atRest, type Settling } from '@/core/check/settling';
import type { TimedValue } from '@/core/check/timedValue';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { referenceRestText } from './referenceRestOf';

/** Says whether the sensor has come to rest, and where it is heading if not. */
export function SettlingIndicator({
  settling,
  watched,
  unit,
  decimals,
}: {
  settling: Settling;
  watched: readonly TimedValue[];
  unit: string;
  decimals: number;
}) {
  return (
    <Box role="status" aria-label="Settling" sx={{ display: 'grid', gap: 0.5 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', fontSize: '1.2rem', fontWeight: 600 }}>
        <StateMark
          state={atRest(settling) ? 'sound' : settling.state === 'watching' ? 'missing' : 'displaced'}
          size={24}
        />
        {stateWords[settling.state]}
      </Box>
      <Typography variant="body2">{words(settling, unit, decimals)}</Typography>
      {settling.state === 'watching' && (
        <LinearProgress
          variant="determinate"
          value={Math.min(100, (100 * settling.watched) / settling.window)}
          aria-label="Watched so far"
        />
      )}
      <Spark watched={watched} />
    </Box>
  );
}

/** Says whether the reference has come to rest, and lets a person who watched it say so. */
export function ReferenceIndicator({
  rest,
  unit,
  decimals,
  onSaid,
}: {
  rest: ReferenceRest | null;
  unit: string;
  decimals: number;
  onSaid: () => void;
}) {
  const text = referenceRestText(rest, unit, decimals);
  if (!text) return null;
  const isStill = referenceRests(rest);
  return (
    <Box
      role="status"
      aria-label="Reference"
      sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', my: 0.5 }}
    >
      <StateMark state={isStill ? 'sound' : 'displaced'} />
      {text}
      {!isStill && (
        <Button sx={gloved} onClick={onSaid}>
          Its display stands still
        </Button>
      )}
    </Box>
  );
}

export const stateWords: Readonly<Record<Settling['state'], string>> = {
  settled: 'Settled',
  moving: 'Moving',
  watching: 'Watching',
  restless: 'Restless',
  said: 'Said to stand still',
  averaged: 'Averaged',
};

function words(s: Settling, unit: string, decimals: number): string {
  const d = decimals + 1;
  switch (s.state) {
    case 'watching':
      return `${Math.floor(s.watched)} of ${s.window} s watched`;
    case 'settled':
      return `${formatDifference(s.movement, d)} ${unit} still to come, within ±${formatValue(s.band, d)}`;
    case 'said':
      return `the display stood still for ${s.window} s, as whoever watched it says`;
    case 'averaged':
      return `mean of ${s.n} readings over ${s.window} s, which scatter by ${formatValue(s.scatter, d)} ${unit}`;
    case 'restless':
      return `no trend, but the scatter of ${formatValue(s.scatter, d)} ${unit} is too wide to prove rest within ±${formatValue(s.band, d)}`;
    case 'moving':
      return s.projected
        ? `about ${formatDifference(s.movement, d)} ${unit} still to come; heading for ${formatValue(s.projected.final, d)} ± ${formatValue(2 * s.projected.uncertainty, d)} ${unit}, time constant about ${Math.round(s.projected.tau)} s`
        : `about ${formatDifference(s.movement, d)} ${unit} still to come; too early to say where it is heading`;
  }
}

/** The watched values as a line, newest at the right. */
function Spark({ watched }: { watched: readonly TimedValue[] }) {
  const shown = watched.slice(-180);
  if (shown.length < 2) return <Box sx={{ height: 56 }} />;
  const ts = shown.map((r) => r.t);
  const values = shown.map((r) => r.value);
  const [t0, t1] = [Math.min(...ts), Math.max(...ts)];
  const [low, high] = [Math.min(...values), Math.max(...values)];
  const x = (t: number) => (300 * (t - t0)) / (t1 - t0 || 1);
  const y = (v: number) => (high === low ? 28 : 52 - (48 * (v - low)) / (high - low));
  return (
    <svg viewBox="0 0 300 56" preserveAspectRatio="none" width="100%" height="56" aria-hidden="true">
      <polyline
        points={shown.map((r) => `${x(r.t).toFixed(1)},${y(r.value).toFixed(1)}`).join(' ')}
        fill="none"
        stroke="var(--mui-palette-primary-main)"
        strokeWidth="2"
        vectorEffect="non-scaling-stroke"
      />
    </svg>
  );
}
