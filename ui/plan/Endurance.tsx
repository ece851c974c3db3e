'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMemo, useState } from 'react';
import type { PlanContext, Profiles } from '@/core/plan/context';
import {
  daysOf,
  endurance,
  intervalText,
  switches,
  usualIntervals,
  type Endurance as Lasts,
} from '@/core/plan/endurance';
import type { Plan } from '@/core/plan/plan';
import { Sum } from '../shared/Sum';
import { IntervalSlider } from '../shared/IntervalSlider';
import { EnduranceChart, exactly } from '../shared/EnduranceChart';

/** How long the station goes on by itself, what ends it, and what each switch buys; answers while one drags. */
export function Endurance({
  context,
  profiles,
  disabled,
  onEdit,
}: {
  context: PlanContext;
  profiles: Profiles;
  disabled: boolean;
  onEdit: (to: (plan: Plan) => Plan) => void;
}) {
  const { plan } = context;
  const [tried, setTried] = useState<number | null>(null);
  const of = useMemo(() => endurance(context), [context]);
  const at = useMemo(
    () =>
      usualIntervals.map((storeEvery) => {
        const { memoryDays, batteryDays } = of(undefined, storeEvery);
        return { storeEvery, memory: exactly(memoryDays), battery: exactly(batteryDays) };
      }),
    [of],
  );
  const buys = useMemo(() => switches(context, profiles), [context, profiles]);
  const storeEvery = tried ?? plan.storeEvery;
  const lasts = of(undefined, storeEvery);
  if (lasts.first === null) return null;
  return (
    <Box
      component="section"
      aria-label="How long it lasts"
      sx={{ border: 1, borderColor: 'divider', bgcolor: 'background.paper', p: 1.5, display: 'grid', gap: 1 }}
    >
      <Typography variant="h2">How long it lasts</Typography>
      <Typography role="status">
        <b>{lastsText(lasts)}</b> stored every {intervalText(storeEvery)}
        {plan.visitEvery > 0 && `; the next visit is after ${plan.visitEvery} days`}.
      </Typography>
      {lasts.sums.map((s) => (
        <Sum key={s}>{s}</Sum>
      ))}
      <EnduranceChart points={at} now={storeEvery} visit={plan.visitEvery} />
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', flexWrap: 'wrap', px: 1 }}>
        <IntervalSlider value={storeEvery} disabled={disabled} onChange={setTried} />
        <Button
          disabled={disabled || tried === null || tried === plan.storeEvery}
          onClick={() => {
            onEdit((p) => ({ ...p, storeEvery }));
            setTried(null);
          }}
        >
          Store every {intervalText(storeEvery)}
        </Button>
      </Box>
      {buys.length > 0 && <Typography variant="h3">What buys time</Typography>}
      <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
        {buys.map((s) => (
          <li key={s.says}>
            <Typography variant="body2">
              {s.says}: {lastsText(s.then)}
            </Typography>
          </li>
        ))}
      </Box>
      <Typography variant="body2" color="text.secondary">
        Reckoned from the profile of the logger; cold takes from a battery: come earlier than this.
      </Typography>
    </Box>
  );
}

const lastsText = (lasts: Lasts): string => {
  const { first } = lasts;
  if (first === null) return 'goes on without an end';
  const days = daysOf(lasts);
  const text =
    days >= 3650 ? 'more than ten years' : `${days < 10 ? days.toFixed(1) : Math.floor(days)} days`;
  return `${text}, until the ${first === 'memory' ? 'memory is full' : 'battery is used'}`;
};
