'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { StepRecovery, WorkRecovery } from '@/contract/busRequests';
import type { RecoveryView } from '@/contract/busViews';
import type { OperationView } from '@/contract/views';
import { serialText } from '@/core/bus/serial';
import { recoverySteps, type StepName } from '@/core/recovery/steps';
import { HoldLine } from '../line/HoldLine';
import { newId, send } from '../shared/api';
import { NumberField } from '../shared/NumberField';
import { OperationProgress } from '../shared/OperationProgress';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { endWord, useOperation } from '../shared/useOperation';

/** The one thing to do next: what it is, what to expect, and the form it needs. */
export function NextStep({
  view,
  step: name,
  onChanged,
}: {
  view: RecoveryView;
  step: StepName;
  onChanged: () => Promise<void>;
}) {
  const step = recoverySteps[name];
  const number = view.evidence.length + 1;
  const base = `/api/v1/stations/${view.stationId}/recoveries/${view.recoveryId}`;
  const does = useMutation({
    mutationFn: (done: StepRecovery['done']) =>
      send('POST', `${base}/steps`, { number, done } satisfies StepRecovery),
    onSettled: onChanged,
  });
  const operation = useOperation(() => void onChanged());
  const works = useMutation({
    mutationFn: (work: Pick<WorkRecovery, 'step' | 'from' | 'to'>) =>
      send<OperationView>('POST', `${base}/work`, {
        operationId: newId(),
        number,
        ...work,
      } satisfies WorkRecovery),
    onSuccess: (o) => operation.follow(o.id),
  });
  const held = view.session !== null && !view.session.over;
  const busy = does.isPending || works.isPending || operation.running;
  return (
    <Box component="section" aria-label="Next step">
      <Typography variant="h2">
        {number}. {step.title}
      </Typography>
      <Typography sx={{ mt: 0.5 }}>{step.asks(view.what)}</Typography>
      <Typography sx={{ color: 'text.secondary', my: 0.5 }}>
        <b>Expected:</b> {step.expects(view.what)}
      </Typography>
      {step.holds && !held ? (
        <HoldLine
          stationId={view.stationId}
          portId={view.portId}
          lineName={view.lineName}
          session={view.session}
          onChanged={onChanged}
        />
      ) : (
        <StepForm
          key={`${name} ${number}`}
          view={view}
          step={name}
          busy={busy}
          onDone={(done) => does.mutate(done)}
          onWork={(work) => works.mutate(work)}
        />
      )}
      {operation.running && <OperationProgress operation={operation} label={`Progress: ${step.title}`} />}
      <Box role="status">
        {does.isPending && 'Asking …'}
        {operation.ended && operation.ended !== 'done' && `${endWord[operation.ended]}: ${operation.message}`}
      </Box>
      <ProblemNote error={does.error ?? works.error} />
      {!busy && step.by === 'person' && (
        <Button size="small" sx={{ mt: 1 }} onClick={() => does.mutate({ step: 'skip', of: name })}>
          Not possible now: leave it open
        </Button>
      )}
    </Box>
  );
}

function StepForm({
  view,
  step,
  busy,
  onDone,
  onWork,
}: {
  view: RecoveryView;
  step: StepName;
  busy: boolean;
  onDone: (done: StepRecovery['done']) => void;
  onWork: (work: Pick<WorkRecovery, 'step' | 'from' | 'to'>) => void;
}) {
  const [volts, setVolts] = useState<number | null>(null);
  const [from, setFrom] = useState<number | null>(1);
  const [to, setTo] = useState<number | null>(247);
  const button = (text: string, act: () => void, disabled = false) => (
    <Button key={text} variant="contained" sx={gloved} disabled={busy || disabled} onClick={act}>
      {text}
    </Button>
  );
  const row = (children: React.ReactNode) => (
    <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start', mt: 1 }}>
      {children}
    </Box>
  );
  switch (step) {
    case 'light':
      return row([
        button('It is on', () => onDone({ step: 'light', light: 'on' })),
        button('It is off', () => onDone({ step: 'light', light: 'off' })),
      ]);
    case 'idle':
    case 'supply':
      return row([
        <Box key="volts" sx={{ width: 180 }}>
          <NumberField label="V DC, with its sign" value={volts} onChange={setVolts} />
        </Box>,
        button('That is what it shows', () => onDone({ step, volts: volts! }), volts === null),
      ]);
    case 'swap':
      return row(button('Swapped: ask it', () => onDone({ step: 'swap' })));
    case 'alone':
      return row(button('It is alone on the line: ask it', () => onDone({ step: 'alone' })));
    case 'whose':
      return row(button('Its leads are off: ask them', () => onDone({ step: 'whose' })));
    case 'any-id':
      return row(button('It is alone on the line: ask', () => onDone({ step: 'any-id' })));
    case 'service':
      return row(button('It is alone on the line: begin to listen', () => onWork({ step: 'service' })));
    case 'scan':
      return row([
        <Box key="from" sx={{ width: 120 }}>
          <NumberField label="From ID" value={from} low={1} high={247} empty={false} onChange={setFrom} />
        </Box>,
        <Box key="to" sx={{ width: 120 }}>
          <NumberField label="To ID" value={to} low={1} high={247} empty={false} onChange={setTo} />
        </Box>,
        button('Scan', () => onWork({ step: 'scan', from: from ?? 1, to: to ?? 247 })),
      ]);
    case 'speeds': {
      const [next] = view.toTry;
      if (view.what.setsSerial) return row(button('Try them', () => onWork({ step: 'speeds' })));
      return row(
        next &&
          button(`The gateway is at ${serialText(next)}: ask it`, () => onDone({ step: 'speeds', at: next })),
      );
    }
    default:
      return row(button('Do it', () => onDone({ step })));
  }
}
