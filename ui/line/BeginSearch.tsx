'use client';

import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import { useRouter } from 'next/navigation';
import type { BeginRecovery } from '@/contract/busRequests';
import { newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

/** Begins to look for why a device does not answer, or goes on where somebody began. */
export function BeginSearch({
  stationId,
  installationId,
  open = null,
}: {
  stationId: string;
  installationId: string;
  open?: string | null;
}) {
  const router = useRouter();
  const begin = useMutation({
    mutationFn: () =>
      send<{ recoveryId: string }>('POST', `/api/v1/stations/${stationId}/recoveries`, {
        recoveryId: newId(),
        installationId,
      } satisfies BeginRecovery),
    onSuccess: ({ recoveryId }) => router.push(`/stations/${stationId}/connect/recovery/${recoveryId}`),
  });
  return (
    <>
      <Button
        sx={gloved}
        variant={open ? 'contained' : 'text'}
        disabled={begin.isPending}
        onClick={() => begin.mutate()}
      >
        {open ? 'Go on with the search' : 'Look for the fault'}
      </Button>
      <ProblemNote error={begin.error} />
    </>
  );
}
