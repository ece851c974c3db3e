'use client';

import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { ReactNode } from 'react';
import type { LevelReadingView, WaterView } from '@/contract/water';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { toDatum } from '@/core/water/datum';
import { levelSum, type LevelRecord } from '@/core/water/levelSum';
import { readText } from '@/core/water/readText';
import { useMay } from '../shared/person';
import { StateMark } from '../shared/stateMark';
import { Sum } from '../shared/Sum';
import { TakeBack as TakeBackEntry } from '../shared/TakeBack';
import { secondText, timeText } from '../shared/time';
import { againstWords } from './levelWords';

/** One reading: what it comes to, what the record says beside it, what is in doubt. */
export function LevelLine({
  view,
  record,
  reading,
  children,
  onChanged,
}: {
  view: WaterView;
  record: LevelRecord;
  reading: LevelReadingView;
  children?: ReactNode;
  onChanged: () => Promise<void>;
}) {
  const point = view.points.find((p) => p.id === reading.pointId) ?? null;
  const sum = levelSum(reading, record);
  const words = againstWords(reading.against);
  const { datum } = view;
  return (
    <Box component="article" sx={{ borderTop: 1, borderColor: 'divider', py: 1, display: 'grid', gap: 0.25 }}>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'baseline' }}>
        <b>{point ? `${point.code} ${point.name}` : 'By hand'}</b>
        <span>{readText(reading.read)}</span>
        <Typography component="span" variant="body2" color="text.secondary">
          {reading.at % 60_000 === 0 ? timeText(reading.at, view.zone) : secondText(reading.at, view.zone)} ·{' '}
          {reading.by}
          {reading.lookedAgain && ' · looked at again'}
        </Typography>
        <Box sx={{ ml: 'auto' }}>
          <TakeBack view={view} kind="readings" id={reading.id} onChanged={onChanged} />
        </Box>
      </Box>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'baseline' }}>
        <Box component="span" sx={{ fontWeight: 600 }}>
          {sum.text}
        </Box>
        {sum.level !== null && (
          <Sum>
            ±{sum.accuracy.toFixed(3)} m{datum && ` above ${datum.name}`}
            {datum?.others.map((o) => `; ${formatValue(toDatum(sum.level!, o), 3)} m in ${o.name}`).join('')}
          </Sum>
        )}
      </Box>
      {words && reading.against?.comparison && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
          <StateMark state={words.isGood ? 'sound' : 'displaced'} />
          <span>{words.title}</span>
          <Sum>
            logged − gauge: {reading.against.comparison.sum}, limit ±
            {reading.against.comparison.limit.toFixed(3)} m (
            {reading.against.comparison.parts
              .filter((p) => p.limit >= 0.0005)
              .map((p) => `${p.name} ${p.limit.toFixed(3)}`)
              .join(' + ')}
            )
            {reading.against.value !== reading.against.logged &&
              `; as logged ${formatDifference(reading.against.logged - (sum.level ?? 0), 3)} m`}
          </Sum>
        </Box>
      )}
      {sum.doubts.map((d) => (
        <Typography key={d} variant="body2">
          ◇ {d}
        </Typography>
      ))}
      {children}
    </Box>
  );
}

/** Takes something of the levels back, for whoever may. */
export function TakeBack({
  view,
  kind,
  id,
  onChanged,
}: {
  view: WaterView;
  kind: 'readings' | 'surveys' | 'revisions';
  id: string;
  onChanged: () => Promise<void>;
}) {
  const may = useMay(({ readings: 'measure', surveys: 'set-up', revisions: 'mark' } as const)[kind]);
  if (!may) return null;
  return (
    <TakeBackEntry address={`/api/v1/stations/${view.stationId}/water/${kind}/${id}`} onChanged={onChanged} />
  );
}
