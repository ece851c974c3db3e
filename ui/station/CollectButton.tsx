'use client';

import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import type { OperationView } from '@/contract/views';
import { newId, send } from '../shared/api';
import { OperationProgress } from '../shared/OperationProgress';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { endWord, useOperation } from '../shared/useOperation';

/** Fetches the logger's stored record: starts the operation, shows how far it is, can be cancelled. */
export function CollectButton({ stationId, onDone }: { stationId: string; onDone: () => void }) {
  const client = useQueryClient();
  const operation = useOperation(() => {
    onDone();
    void client.invalidateQueries({ queryKey: ['clock-strip'] });
  });
  const begin = useMutation({
    mutationFn: () =>
      send<OperationView>('POST', `/api/v1/stations/${stationId}/collect`, { operationId: newId() }),
    onSuccess: (o) => operation.follow(o.id),
  });
  return (
    <Box sx={{ minWidth: 210 }}>
      <Button
        variant="contained"
        disabled={operation.running || begin.isPending}
        onClick={() => begin.mutate()}
        sx={gloved}
      >
        Collect the record
      </Button>
      {operation.running && <OperationProgress operation={operation} label="Progress of the collection" />}
      <Box role="status" sx={{ mt: 0.5, fontSize: '0.9rem' }}>
        {operation.ended &&
          `${operation.ended === 'done' ? 'Collected' : endWord[operation.ended]}: ${operation.message}`}
      </Box>
      <ProblemNote error={begin.error} />
    </Box>
  );
}
