'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useEffect, type ReactNode } from 'react';
import type { DischargeView } from '@/contract/discharge';
import type { OperationView } from '@/contract/views';
import { newId, send } from '../shared/api';
import { OperationProgress } from '../shared/OperationProgress';
import PageLink from '../shared/PageLink';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { endWord, useOperation } from '../shared/useOperation';

interface Props {
  view: DischargeView;
  onChanged: () => Promise<void>;
}

/** The channel of its discharge: there, or to be derived. */
export function Derived(props: Props) {
  const { view } = props;
  const channelId = view.velocity ? view.dischargeId : view.ratedId;
  if (!channelId) return <Derive {...props} />;
  const trace = (
    <Link component={PageLink} href={`/stations/${view.stationId}/trace/${channelId}`}>
      trace of the discharge
    </Link>
  );
  return view.isBehind ? (
    <Reckoning {...props} trace={trace} />
  ) : (
    <Typography sx={{ mt: 1 }}>
      Its record is reckoned anew whenever what it rests on changes: {trace}.
    </Typography>
  );
}

/** What it rests on has changed: a record of years takes its time. Begun at once, by whoever may. */
function Reckoning({ view, trace, onChanged }: Props & { trace: ReactNode }) {
  const may = useMay('mark');
  const operation = useOperation(() => void onChanged());
  const begin = useMutation({
    mutationFn: () =>
      send<OperationView>('POST', `/api/v1/stations/${view.stationId}/derived/reckon`, {
        operationId: newId(),
      }),
    onSuccess: (o) => operation.follow(o.id),
  });
  const { mutate, isIdle } = begin;
  useEffect(() => {
    if (may && isIdle) mutate();
  }, [may, isIdle, mutate]);
  const isOver = operation.ended !== null || begin.error !== null;
  return (
    <Box sx={{ mt: 1 }}>
      <Typography>
        What its record rests on has changed: it is reckoned anew here, or by whoever reads the {trace} next.
      </Typography>
      {operation.running && <OperationProgress operation={operation} label="Progress of the reckoning" />}
      <Box role="status">
        {operation.ended && operation.ended !== 'done' && `${endWord[operation.ended]}: ${operation.message}`}
      </Box>
      <ProblemNote error={begin.error} />
      {may && isOver && (
        <Button sx={gloved} disabled={begin.isPending} onClick={() => mutate()}>
          Reckon it anew
        </Button>
      )}
    </Box>
  );
}

/** No channel of it yet. */
function Derive({ view, onChanged }: Props) {
  const may = useMay('mark');
  const derive = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${view.stationId}/derived`, {
        channelId: newId(),
        formula: view.velocity ? 'surfaceVelocity' : 'levelRating',
        zoneName: 'Discharge',
        inputs: { level: view.level!.id, ...(view.velocity && { velocity: view.velocity.id }) },
        parameters: {},
      }),
    onSuccess: onChanged,
  });
  const isReady = view.velocity ? view.curves.length > 0 : view.ratings.length > 0;
  if (!may || !view.level || !isReady) return null;
  return (
    <Box sx={{ mt: 1 }}>
      <Button sx={gloved} disabled={derive.isPending} onClick={() => derive.mutate()}>
        Keep a channel of the discharge
      </Button>
      <ProblemNote error={derive.error} />
    </Box>
  );
}
