'use client';

import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import type { ChannelWatchView, SetCollectSchedule } from '@/contract/watch';
import { formatAge } from '@/core/quantity/format';
import { newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';

const choices = [60, 300, 600, 900, 1800, 3600, 21_600, 86_400];

/** How often the application asks the station's logger for its record by itself. */
export function Schedule({ view, onChanged }: { view: ChannelWatchView; onChanged: () => Promise<void> }) {
  const set = useMutation({
    mutationFn: (everySeconds: number | null) =>
      send('POST', `/api/v1/stations/${view.stationId}/schedule`, {
        scheduleId: newId(),
        everySeconds,
      } satisfies SetCollectSchedule),
    onSuccess: onChanged,
  });
  return (
    <>
      <TextField
        select
        label={`The record of ${view.code} is collected`}
        value={view.everySeconds ?? ''}
        disabled={set.isPending}
        onChange={(e) => set.mutate(e.target.value === '' ? null : Number(e.target.value))}
        sx={{ minWidth: 260 }}
      >
        <MenuItem value="">by hand only</MenuItem>
        {choices.map((s) => (
          <MenuItem key={s} value={s}>
            every {formatAge(s)} by itself
          </MenuItem>
        ))}
      </TextField>
      <ProblemNote error={set.error} />
    </>
  );
}
