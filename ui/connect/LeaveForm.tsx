import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useForm } from 'react-hook-form';
import type { TakeOut } from '@/contract/requests';
import type { InstallationView } from '@/contract/views';
import { send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

/** Takes a sensor out for good; its channels keep what they logged. */
export function LeaveForm({
  stationId,
  installation: i,
  onLeft,
}: {
  stationId: string;
  installation: InstallationView;
  onLeft: () => Promise<void>;
}) {
  const { register, handleSubmit } = useForm<Pick<TakeOut, 'reason'>>({ defaultValues: { reason: '' } });
  const leave = useMutation({
    mutationFn: ({ reason }: Pick<TakeOut, 'reason'>) =>
      send('POST', `/api/v1/stations/${stationId}/installations/${i.id}/take-out`, {
        reason,
        occurredAt: nowText(),
      }),
    onSuccess: onLeft,
  });
  return (
    <Box
      component="form"
      noValidate
      onSubmit={(e) => void handleSubmit((f) => leave.mutateAsync(f).catch(() => {}))(e)}
      sx={{ mt: 1, display: 'grid', gap: 1 }}
    >
      <Typography variant="body2">
        Its channels stay, with all they logged; they get no values until another sensor takes its place. The
        sensor can be connected elsewhere from then on.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <TextField label="Why it leaves" sx={{ width: 320 }} {...register('reason')} />
        <Button type="submit" variant="contained" color="error" sx={gloved} disabled={leave.isPending}>
          Take {i.sensorSerial} out
        </Button>
      </Box>
      <ProblemNote error={leave.error} />
    </Box>
  );
}
