'use client';

import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import LinearProgress from '@mui/material/LinearProgress';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import type { OperationView } from '@/contract/views';
import { load, newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

/** Fetches the logger's stored record: starts the operation, shows how far it is, can be cancelled. */
export function CollectButton({ stationId, onDone }: { stationId: string; onDone: () => void }) {
  const [operationId, setOperationId] = useState<string | null>(null);
  const client = useQueryClient();
  const begin = useMutation({
    mutationFn: () =>
      send<OperationView>('POST', `/api/v1/stations/${stationId}/collect`, { operationId: newId() }),
    onSuccess: (o) => setOperationId(o.id),
  });
  const { data } = useQuery({
    queryKey: ['operation', operationId],
    enabled: operationId !== null,
    queryFn: () => load<OperationView>(`/api/v1/operations/${operationId}`),
    refetchInterval: (q) => (q.state.data && q.state.data.state !== 'running' ? false : 400),
  });
  const running = operationId !== null && (!data || data.state === 'running');
  const ended = data && data.state !== 'running' ? data.state : null;
  useEffect(() => {
    if (!ended) return;
    onDone();
    void client.invalidateQueries({ queryKey: ['clock-strip'] });
    // The parent's callback changes with every render; only the end of the operation matters.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [ended, operationId]);
  return (
    <Box sx={{ minWidth: 210 }}>
      <Button
        variant="contained"
        disabled={running || begin.isPending}
        onClick={() => begin.mutate()}
        sx={gloved}
      >
        Collect the record
      </Button>
      {running && (
        <Box sx={{ mt: 1 }}>
          <LinearProgress
            variant="determinate"
            value={(data?.progress ?? 0) * 100}
            aria-label="Progress of the collection"
          />
          {data?.message ?? 'Beginning'}
          <Button
            size="small"
            sx={{ ml: 1 }}
            onClick={() => void send('POST', `/api/v1/operations/${operationId}/cancel`)}
          >
            Cancel
          </Button>
        </Box>
      )}
      <Box role="status" sx={{ mt: 0.5, fontSize: '0.9rem' }}>
        {ended &&
          `${{ done: 'Collected', failed: 'Failed', cancelled: 'Cancelled', lost: 'Stopped half-way' }[ended]}: ${data?.message}`}
      </Box>
      <ProblemNote error={begin.error} />
    </Box>
  );
}
