'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ChangeSdi12, MeasureSdi12, SaySdi12, ScanSdi12 } from '@/contract/busRequests';
import type { ConsoleView, Sdi12AnswerView, Sdi12ScanView } from '@/contract/busViews';
import type { OperationView } from '@/contract/views';
import { proposeSdi12Address } from '@/core/bus/sdi12';
import { newId, send } from '../shared/api';
import { OperationProgress } from '../shared/OperationProgress';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { endWord, useOperation } from '../shared/useOperation';
import { AnswerBox } from './AnswerBox';
import { Parts } from './Frames';
import { HoldLine } from './HoldLine';

type By = NonNullable<SaySdi12['by']>;
type DataLine = ConsoleView['dataLines'][number];
const row = { display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'flex-start', mt: 1.25 } as const;

/**
 * A data line: the logger passes commands on in its own time, so nobody has to be quiet; an adapter of its own on the
 * network is a second master, and the line is held for it.
 */
export function Sdi12({
  stationId,
  line,
  onChanged,
}: {
  stationId: string;
  line: DataLine;
  onChanged: () => Promise<void>;
}) {
  const mayMeasure = useMay('measure');
  const base = `/api/v1/stations/${stationId}/sdi-12`;
  const { terminal, adapter } = line;
  const [by, setBy] = useState<'logger' | 'adapter'>('logger');
  const mayTalk = by === 'logger' || (adapter?.session != null && !adapter.session.over);
  return (
    <Box component="section" aria-label={`SDI-12 on ${terminal}`} sx={{ mt: 3 }}>
      <Typography variant="h2">SDI-12 on {terminal}</Typography>
      <Typography variant="body2" color="text.secondary">
        {by === 'logger'
          ? '1200 baud 7E1 through the logger, which makes break and marking itself and goes on measuring'
          : `1200 baud 7E1 through the adapter at ${adapter?.address}, which makes break and marking itself`}
      </Typography>
      {adapter && mayMeasure && (
        <>
          <RadioGroup
            row
            aria-label={`Who speaks on ${terminal}`}
            value={by}
            onChange={(e) => setBy(e.target.value === 'adapter' ? 'adapter' : 'logger')}
          >
            <FormControlLabel value="logger" control={<Radio />} label="through the logger" />
            <FormControlLabel value="adapter" control={<Radio />} label="through its adapter" />
          </RadioGroup>
          {by === 'adapter' && (
            <HoldLine
              stationId={stationId}
              portId={adapter.portId}
              lineName={adapter.name}
              session={adapter.session}
              onChanged={onChanged}
            />
          )}
        </>
      )}
      {line.devices.map((d) => (
        <Typography key={d.installationId} sx={{ borderTop: 1, borderColor: 'divider', py: 0.5 }}>
          <b>Address {d.address}</b> · {d.modelName} {d.serial} · {d.zoneName}
        </Typography>
      ))}
      {line.devices.length === 0 && <Typography>Nothing hangs here by what is on file.</Typography>}
      {mayMeasure && mayTalk && (
        <Box sx={{ display: 'grid', gap: 2, mt: 1, gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' } }}>
          <Measure base={base} line={line} by={by} />
          <Say base={base} terminal={terminal} by={by} />
          <ScanAddresses base={base} terminal={terminal} by={by} />
          <ChangeAddress base={base} line={line} by={by} onChanged={onChanged} />
        </Box>
      )}
    </Box>
  );
}

function Answer({ answer }: { answer: Sdi12AnswerView }) {
  const good = answer.state === 'done' && answer.exchanges.at(-1)?.answer != null;
  return (
    <AnswerBox good={good} state={answer.state} says={answer.says}>
      {answer.exchanges.map((e, i) => (
        <Box key={i} sx={{ my: 0.5 }}>
          <Box component="span" sx={{ fontFamily: '"IBM Plex Mono", monospace' }}>
            {e.command}
          </Box>
          <Parts parts={e.parts} />
        </Box>
      ))}
    </AnswerBox>
  );
}

const addressField = (label: string, value: string, onChange: (a: string) => void) => (
  <TextField
    label={label}
    value={value}
    error={!/^[0-9a-zA-Z]$/.test(value)}
    helperText={/^[0-9a-zA-Z]$/.test(value) ? ' ' : '0–9, a–z, A–Z'}
    sx={{ width: 112 }}
    onChange={(e) => onChange(e.target.value.slice(-1))}
  />
);

function Measure({ base, line, by }: { base: string; line: DataLine; by: By }) {
  const first = line.devices[0];
  const [address, setAddress] = useState(first?.address ?? '0');
  const [command, setCommand] = useState(first?.commands[0] ?? 'M');
  const [crc, setCrc] = useState(false);
  const measure = useMutation({
    mutationFn: () =>
      send<Sdi12AnswerView>('POST', `${base}/measure`, {
        actionId: newId(),
        terminal: line.terminal,
        address,
        command,
        crc,
        by,
      } satisfies MeasureSdi12),
  });
  return (
    <Box component="section" aria-label="Measure">
      <Typography variant="h3">Measure</Typography>
      <Box sx={row}>
        {addressField('Address', address, setAddress)}
        <TextField
          label="Command"
          value={command}
          sx={{ width: 112 }}
          onChange={(e) => setCommand(e.target.value.trim().toUpperCase())}
        />
        <FormControlLabel
          control={<Checkbox checked={crc} onChange={(e) => setCrc(e.target.checked)} />}
          label="with checksum"
        />
        <Button variant="contained" sx={gloved} disabled={measure.isPending} onClick={() => measure.mutate()}>
          {measure.isPending ? 'Measuring …' : 'Measure'}
        </Button>
      </Box>
      <ProblemNote error={measure.error} />
      {measure.data && <Answer answer={measure.data} />}
    </Box>
  );
}

function Say({ base, terminal, by }: { base: string; terminal: string; by: By }) {
  const [command, setCommand] = useState('0I!');
  const say = useMutation({
    mutationFn: () =>
      send<Sdi12AnswerView>('POST', `${base}/say`, {
        actionId: newId(),
        terminal,
        command,
        by,
      } satisfies SaySdi12),
  });
  return (
    <Box component="section" aria-label="Say">
      <Typography variant="h3">Say</Typography>
      <Box sx={row}>
        <TextField
          label="Command"
          value={command}
          helperText="0! 0I! 0M! 0D0! or, alone, ?!"
          sx={{ width: 232 }}
          onChange={(e) => setCommand(e.target.value.trim())}
        />
        <Button variant="outlined" sx={gloved} disabled={say.isPending} onClick={() => say.mutate()}>
          {say.isPending ? 'Asking …' : 'Say it'}
        </Button>
      </Box>
      <ProblemNote error={say.error} />
      {say.data && <Answer answer={say.data} />}
    </Box>
  );
}

function ScanAddresses({ base, terminal, by }: { base: string; terminal: string; by: By }) {
  const operation = useOperation(() => {});
  const scan = useMutation({
    mutationFn: () =>
      send<OperationView>('POST', `${base}/scan`, {
        operationId: newId(),
        terminal,
        by,
      } satisfies ScanSdi12),
    onSuccess: (o) => operation.follow(o.id),
  });
  const found = operation.result as Sdi12ScanView | null;
  return (
    <Box component="section" aria-label="Scan addresses">
      <Typography variant="h3">Scan</Typography>
      <Button
        variant="outlined"
        sx={{ ...gloved, mt: 1.25 }}
        disabled={operation.running || scan.isPending}
        onClick={() => scan.mutate()}
      >
        Ask all 62 addresses
      </Button>
      {operation.running && <OperationProgress operation={operation} label="Progress of the scan" />}
      <Box role="status">{operation.ended && `${endWord[operation.ended]}: ${operation.message}`}</Box>
      <ProblemNote error={scan.error} />
      <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
        {found?.hits.map((h) => (
          <li key={h.address}>
            <b>Address {h.address}</b> answers ·{' '}
            {h.identity
              ? `${h.identity.vendor} ${h.identity.model}, firmware ${h.identity.firmware}, ${h.identity.serial}`
              : 'says not who it is'}{' '}
            · {h.serial ?? <i>nothing on file has it</i>}
          </li>
        ))}
        {found?.silent.map((s) => (
          <li key={s.serial}>
            <b>Address {s.address}</b> is silent · {s.serial} should be there
          </li>
        ))}
      </Box>
    </Box>
  );
}

function ChangeAddress({
  base,
  line,
  by,
  onChanged,
}: {
  base: string;
  line: DataLine;
  by: By;
  onChanged: () => Promise<void>;
}) {
  const [from, setFrom] = useState(line.devices[0]?.address ?? '0');
  const [to, setTo] = useState(proposeSdi12Address([from, ...line.devices.map((d) => d.address)]) ?? '1');
  const change = useMutation({
    mutationFn: () =>
      send<Sdi12AnswerView>('POST', `${base}/change-address`, {
        actionId: newId(),
        terminal: line.terminal,
        from,
        to,
        by,
      } satisfies ChangeSdi12),
    onSuccess: onChanged,
  });
  return (
    <Box component="section" aria-label="Change an address">
      <Typography variant="h3">Change an address</Typography>
      <Box sx={row}>
        {addressField('Address now', from, setFrom)}
        {addressField('New address', to, setTo)}
        <Button variant="outlined" sx={gloved} disabled={change.isPending} onClick={() => change.mutate()}>
          {change.isPending ? 'Writing …' : 'Change it'}
        </Button>
      </Box>
      <ProblemNote error={change.error} />
      {change.data && <Answer answer={change.data} />}
    </Box>
  );
}
