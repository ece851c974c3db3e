'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { StageInterval } from '@/contract/requests';
import type { DeployView } from '@/contract/deployViews';
import { daysText, lasting, middle } from '@/core/deploy/lasting';
import { intervalText } from '@/core/plan/endurance';
import { send } from '../shared/api';
import { EnduranceChart } from '../shared/EnduranceChart';
import { IntervalSlider } from '../shared/IntervalSlider';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';

/** How long memory and battery last at each interval, what each switch buys; answers while one drags. */
export function HowLong({
  view,
  logger,
  storesBattery,
}: {
  view: DeployView;
  logger: NonNullable<DeployView['logger']>;
  storesBattery: boolean;
}) {
  const [tried, setTried] = useState<number | null>(null);
  const stage = useMutation({
    mutationFn: (storageInterval: number) =>
      send<{ staged: number }>('POST', `/api/v1/stations/${view.stationId}/settings/stage-interval`, {
        storageInterval,
      } satisfies StageInterval),
  });
  const channels = view.channels.length;
  const set = view.channels[0]?.storeEvery;
  if (set === undefined) return null;
  const at = (storeEvery: number, n = channels, own = storesBattery) =>
    lasting(logger, {
      channels: n,
      storesBattery: own,
      storeEvery,
      ampereHours: view.draws.find((d) => d.storeEvery === storeEvery)?.ampereHours ?? 0,
    });
  const storeEvery = tried ?? set;
  const lasts = at(storeEvery);
  const longer = view.draws.find((d) => d.storeEvery > storeEvery)?.storeEvery;
  const switches = [
    ...(longer === undefined ? [] : [{ says: `stored every ${intervalText(longer)}`, then: at(longer) }]),
    ...(channels > 1 ? [{ says: 'one channel off', then: at(storeEvery, channels - 1) }] : []),
    ...(storesBattery ? [{ says: 'its battery not stored', then: at(storeEvery, channels, false) }] : []),
  ].filter(({ then }) => middle(then.ends) > middle(lasts.ends) * 1.01);
  return (
    <Box
      component="section"
      aria-label="How long it lasts"
      sx={{ border: 1, borderColor: 'divider', bgcolor: 'background.paper', p: 1.5, display: 'grid', gap: 1 }}
    >
      <Typography role="status">
        <b>
          {daysText(lasts.ends)}, until the {lasts.first === 'memory' ? 'memory is full' : 'battery is used'}
        </b>
        , stored every {intervalText(storeEvery)}; the next visit is after {view.visitEvery} days.
      </Typography>
      {lasts.sums.map((s) => (
        <Sum key={s}>{s}</Sum>
      ))}
      <EnduranceChart
        points={view.draws.map((d) => ({ storeEvery: d.storeEvery, ...at(d.storeEvery) }))}
        now={storeEvery}
        visit={view.visitEvery}
      />
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap', px: 1 }}>
        <IntervalSlider value={storeEvery} disabled={false} onChange={setTried} />
        <Button disabled={storeEvery === set || stage.isPending} onClick={() => stage.mutate(storeEvery)}>
          Stage every {intervalText(storeEvery)}
        </Button>
      </Box>
      {stage.data && (
        <Typography role="status">
          Staged for {stage.data.staged} channels: write them under Connect, then launch.
        </Typography>
      )}
      <ProblemNote error={stage.error} />
      {switches.length > 0 && (
        <Typography variant="body2">
          <b>What buys time:</b> {switches.map((s) => `${s.says}: ${daysText(s.then.ends)}`).join(' · ')}
        </Typography>
      )}
    </Box>
  );
}
