'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import type { MendRecovery, StepRecovery } from '@/contract/busRequests';
import type { BusWriteView, RecoveryView } from '@/contract/busViews';
import { causeKinds } from '@/core/recovery/cause';
import { remainingText } from '@/core/recovery/recovery';
import { HoldLine } from '../line/HoldLine';
import { newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { SaidOutcome } from '../shared/SaidOutcome';
import { StateMark } from '../shared/stateMark';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';

/** What was found, and how it is put right; or that it answers; or what remains. */
export function Outcome({ view, onChanged }: { view: RecoveryView; onChanged: () => Promise<void> }) {
  const mayMeasure = useMay('measure');
  const { state, mend } = view;
  const base = `/api/v1/stations/${view.stationId}/recoveries/${view.recoveryId}`;
  const number = view.evidence.length + 1;
  const again = useMutation({
    mutationFn: () =>
      send('POST', `${base}/steps`, {
        number,
        done: { step: 'mended', cause: state.found! },
      } satisfies StepRecovery),
    onSettled: onChanged,
  });
  const verify = useMutation({
    mutationFn: () =>
      send('POST', `${base}/steps`, { number, done: { step: 'verified' } } satisfies StepRecovery),
    onSettled: onChanged,
  });
  const mends = useMutation({
    mutationFn: () =>
      send<BusWriteView>('POST', `${base}/mend`, { actionId: newId(), number } satisfies MendRecovery),
    onSettled: onChanged,
  });
  const held = view.session !== null && !view.session.over;
  const busy = again.isPending || mends.isPending;
  if (state.verdict === 'answers')
    return (
      <Box sx={{ display: 'grid', gap: 1, justifyItems: 'start' }}>
        <Typography variant="h2" role="status" sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <StateMark state={state.verified === false ? 'displaced' : 'sound'} size={26} /> It answers
          {state.verified === null
            ? '.'
            : state.verified
              ? ', and its logger shows it.'
              : ', but its logger does not show all of it.'}
        </Typography>
        {state.verified !== true && (
          <Typography>
            {held
              ? 'Give the line back first: its logger does not poll it while you hold it.'
              : 'What counts is what its logger hears: have it looked at.'}
          </Typography>
        )}
        {mayMeasure && view.endedAt === null && state.verified !== true && (
          <Button
            variant="contained"
            sx={gloved}
            disabled={held || verify.isPending}
            onClick={() => verify.mutate()}
          >
            {verify.isPending ? 'Asking …' : 'Verify through the logger'}
          </Button>
        )}
        <ProblemNote error={verify.error} />
      </Box>
    );
  if (!state.found)
    return (
      <Box role="status">
        <Typography variant="h2" sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <StateMark state="missing" size={26} /> Nothing is left to try here
        </Typography>
        <Typography sx={{ mt: 0.5 }}>
          What remains: <b>{remainingText(state)}</b>.
        </Typography>
      </Box>
    );
  return (
    <Box component="section" aria-label="Found">
      <Typography variant="h2" role="status" sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <StateMark state="displaced" size={26} /> Found: {causeKinds[state.found].name}
      </Typography>
      <Typography sx={{ mt: 0.5 }}>{causeKinds[state.found].mend}</Typography>
      {mend && (
        <>
          <Box
            component="table"
            sx={{ borderCollapse: 'collapse', my: 1, '& td, & th': { pr: 2, textAlign: 'left' } }}
          >
            <thead>
              <tr>
                <th>Changes</th>
                <th>as found</th>
                <th>as it should be</th>
              </tr>
            </thead>
            <tbody>
              {mend.changes.map((c) => (
                <tr key={c.field}>
                  <td>{c.field}</td>
                  <td>
                    <Sum>{c.from}</Sum>
                  </td>
                  <td>
                    <b>{c.to}</b>
                  </td>
                </tr>
              ))}
            </tbody>
          </Box>
          <Typography variant="body2">
            Nothing else of it is touched. It is stored for good and read back
            {mend.by === 'service' ? ', and sent back to work in the protocol its logger polls' : ''}.
          </Typography>
        </>
      )}
      {mayMeasure && mend && !held && (
        <HoldLine
          stationId={view.stationId}
          portId={view.portId}
          lineName={view.lineName}
          session={view.session}
          onChanged={onChanged}
        />
      )}
      {mayMeasure && (
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', mt: 1 }}>
          {mend && held && (
            <Button variant="contained" sx={gloved} disabled={busy} onClick={() => mends.mutate()}>
              {mends.isPending ? 'Writing …' : 'Put it right over the line'}
            </Button>
          )}
          <Button
            variant={mend ? 'outlined' : 'contained'}
            sx={gloved}
            disabled={busy}
            onClick={() => again.mutate()}
          >
            {again.isPending ? 'Asking …' : 'I have put it right: ask again'}
          </Button>
        </Box>
      )}
      <SaidOutcome said={mends.data} />
      <ProblemNote error={again.error ?? mends.error} />
    </Box>
  );
}
