'use client';

import Alert from '@mui/material/Alert';
import Button from '@mui/material/Button';
import { useMutation } from '@tanstack/react-query';
import type { OpenActionView } from '@/contract/views';
import { Age } from '../shared/Age';
import { send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';

/** Writes whose outcome nobody knows, each with the one thing that settles it. */
export function UnknownActions({
  stationId,
  actions,
  onSettled,
}: {
  stationId: string;
  actions: readonly OpenActionView[];
  onSettled: () => void;
}) {
  const settle = useMutation({
    mutationFn: (id: string) =>
      send<{ state: string; says: string | null }>(
        'POST',
        `/api/v1/stations/${stationId}/actions/${id}/settle`,
      ),
    onSuccess: onSettled,
  });
  const mayMeasure = useMay('measure');
  return (
    <>
      {actions.map((a) => (
        <Alert
          key={a.id}
          severity="warning"
          variant="outlined"
          sx={{ mb: 1, color: 'text.primary' }}
          action={
            mayMeasure && (
              <Button color="inherit" disabled={settle.isPending} onClick={() => settle.mutate(a.id)}>
                Read back to settle
              </Button>
            )
          }
        >
          <b>Outcome unknown:</b> {a.says}, begun <Age at={a.intendedAt} /> by {a.initials}. The logger may or
          may not hold it; nothing is assumed.
        </Alert>
      ))}
      {settle.data && (
        <Alert severity="info" variant="outlined" sx={{ mb: 1, color: 'text.primary' }}>
          Settled by read-back:{' '}
          {settle.data.state === 'done'
            ? 'the logger holds it.'
            : `it did not take effect${settle.data.says ? `: ${settle.data.says}` : ''}.`}
        </Alert>
      )}
      <ProblemNote error={settle.error} />
    </>
  );
}
