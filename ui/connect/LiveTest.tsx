'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import type { BeginLiveTest } from '@/contract/requests';
import type { OperationView } from '@/contract/views';
import { newId, send } from '../shared/api';
import { OperationProgress } from '../shared/OperationProgress';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { endWord, useOperation } from '../shared/useOperation';

const tries = 10;

/** Asks a channel several times: how often it gave a value it can have, and why not otherwise. */
export function LiveTest({ stationId, channelId }: { stationId: string; channelId: string }) {
  const operation = useOperation(() => {});
  const begin = useMutation({
    mutationFn: () =>
      send<OperationView>('POST', `/api/v1/stations/${stationId}/channels/${channelId}/live-test`, {
        operationId: newId(),
        tries,
      } satisfies BeginLiveTest),
    onSuccess: (o) => operation.follow(o.id),
  });
  return (
    <Box>
      <Button sx={gloved} disabled={operation.running || begin.isPending} onClick={() => begin.mutate()}>
        {operation.running ? 'Testing …' : 'Test live'}
      </Button>
      {operation.running && <OperationProgress operation={operation} label="Progress of the live test" />}
      {operation.ended && (
        <Typography role="status" variant="body2" sx={{ maxWidth: 420 }}>
          {operation.ended === 'done' ? '' : `${endWord[operation.ended]}: `}
          {operation.message}.{' '}
          <Box
            component={PageLink}
            href={`/stations/${stationId}/check?channel=${channelId}`}
            sx={{ color: 'inherit', whiteSpace: 'nowrap' }}
          >
            Set it to a value, by a check
          </Box>
        </Typography>
      )}
      <ProblemNote error={begin.error} />
    </Box>
  );
}
