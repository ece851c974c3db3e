'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import type { LevelReadingView, WaterView } from '@/contract/water';
import type { CorrectSpan } from '@/contract/verifyRequests';
import { formatDifference } from '@/core/quantity/format';
import { newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { agreedBefore, correctedSpan } from './correctedSpan';

/**
 * Where the record is off: corrects it back to the last reading that agreed, at once or pro-rated. The logged values stay;
 * the correction lies over them and can be taken back in the trace.
 */
export function CorrectRecord({
  view,
  reading,
  onChanged,
}: {
  view: WaterView;
  reading: LevelReadingView;
  onChanged: () => Promise<void>;
}) {
  const may = useMay('mark');
  const { against } = reading;
  const off = against?.comparison?.difference ?? 0;
  const channelId = against?.channelId ?? '';
  const before = agreedBefore(view.readings, reading);
  const point = view.points.find((p) => p.id === reading.pointId);
  const correct = useMutation({
    mutationFn: (shape: CorrectSpan['shape']) =>
      send('POST', `/api/v1/stations/${view.stationId}/channels/${channelId}/corrections`, {
        layerId: newId(),
        shape,
        ...correctedSpan(before!, reading),
        fromOffset: shape === 'linear' ? 0 : -off,
        untilOffset: -off,
        reason: `${point?.code ?? 'level by hand'} of ${timeText(reading.at, view.zone)}: logged − gauge ${formatDifference(off, 3)} m`,
      } satisfies CorrectSpan),
    onSuccess: onChanged,
  });
  if (!may || against?.comparison?.verdict.kind !== 'adjust') return null;
  if (!before)
    return (
      <Typography variant="body2">
        No earlier reading agreed: choose the span to correct in the trace yourself.
      </Typography>
    );
  return (
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
      <Typography variant="body2">
        Correct the record since {timeText(before.at, view.zone)}, when they agreed:
      </Typography>
      <Button sx={gloved} disabled={correct.isPending} onClick={() => correct.mutate('step')}>
        {formatDifference(-off, 3)} m at once
      </Button>
      <Button sx={gloved} disabled={correct.isPending} onClick={() => correct.mutate('linear')}>
        0 to {formatDifference(-off, 3)} m, pro-rated
      </Button>
      <Typography variant="caption" color="text.secondary" sx={{ flexBasis: '100%' }}>
        What is logged later stays as it is: adjust the sensor now, or correct it from the next reading.
      </Typography>
      <ProblemNote error={correct.error} />
    </Box>
  );
}
