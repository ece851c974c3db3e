'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import type { SwapSensor } from '@/contract/requests';
import type { InstallationView } from '@/contract/views';
import { newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved, openForm } from '../shared/theme';

/** One of the same model on the same terminals, in the place of a sensor that is not on a serial line. */
export function SwapForm({
  stationId,
  installation: i,
  onSwapped,
}: {
  stationId: string;
  installation: InstallationView;
  onSwapped: () => void | Promise<void>;
}) {
  const { register, handleSubmit } = useForm<Pick<SwapSensor, 'serial' | 'reason'>>({
    defaultValues: { serial: '', reason: '' },
  });
  const swap = useMutation({
    mutationFn: (typed: Pick<SwapSensor, 'serial' | 'reason'>) =>
      send('POST', `/api/v1/stations/${stationId}/installations/${i.id}/swap`, {
        ...typed,
        installationId: newId(),
        profileCode: i.profileCode,
        busId: null,
        serialSettings: null,
        cableLength: i.cableLength,
        cableResistance: i.cableResistance,
        landedLeads: i.leads.map((l) => l.colour),
        occurredAt: nowText(),
      } satisfies SwapSensor),
    onSuccess: onSwapped,
  });
  return (
    <Box
      component="form"
      noValidate
      sx={openForm}
      onSubmit={(e) => void handleSubmit((typed) => swap.mutate(typed))(e)}
    >
      <Typography variant="h2">In the place of {i.sensorSerial}</Typography>
      <Typography variant="body2">
        Another {i.modelName} on the same terminals:{' '}
        {i.leads.map((l) => `${l.colour} → ${l.terminal}`).join(', ')}. Its channels go on.
      </Typography>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        <TextField label="Serial number" {...register('serial')} />
        <TextField label="Why it is swapped" sx={{ width: 320 }} {...register('reason')} />
      </Box>
      <ProblemNote error={swap.error} />
      <Box>
        <Button type="submit" variant="contained" sx={gloved} disabled={swap.isPending}>
          {swap.isPending ? 'Swapping …' : 'Swap'}
        </Button>
      </Box>
    </Box>
  );
}
