'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { BeginProof, ChannelWatchView, EndProof, ProofView } from '@/contract/watch';
import { formatValue, roundTo } from '@/core/quantity/format';
import { limitNames, type Limits } from '@/core/settings/limits';
import { newId, send } from '../shared/api';
import { NumberField } from '../shared/NumberField';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { fieldGrid, gloved, openForm } from '../shared/theme';
import { timeText } from '../shared/time';

const addressOf = (view: ChannelWatchView) =>
  `/api/v1/stations/${view.stationId}/channels/${view.channelId}/watch/proof`;

const provedWords = {
  never: 'Never proved: nobody has made it ring.',
  'other limits': 'Proved, but by other limits than those in force.',
  proved: 'Proved: it rang, its message arrived, and it cleared.',
} as const;

/** A rule is proved by provoking it, in both directions; one that never was says so. */
export function Proof({
  view,
  newest,
  onChanged,
}: {
  view: ChannelWatchView;
  newest: number | null;
  onChanged: () => Promise<void>;
}) {
  const may = useMay('measure');
  const [isOpen, setOpen] = useState(false);
  const armed = view.rules[0]?.armed === true;
  return (
    <Box component="section" aria-label="Proof" sx={{ my: 2 }}>
      <Typography variant="h2">Proof</Typography>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <StateMark
          state={view.proved === 'proved' ? 'sound' : view.proved === 'never' ? 'missing' : 'displaced'}
        />
        <Typography>
          {provedWords[view.proved]}
          {view.lastProof &&
            ` Last ${timeText(view.lastProof.at, view.zone)}, ${view.lastProof.by}${view.lastProof.note ? `: ${view.lastProof.note}` : ''}.`}
        </Typography>
      </Box>
      {view.proof ? (
        <Running view={view} proof={view.proof} may={may} onChanged={onChanged} />
      ) : (
        may &&
        armed && (
          <>
            <Button sx={{ ...gloved, my: 1 }} onClick={() => setOpen(!isOpen)}>
              {isOpen ? 'Not now' : 'Prove it'}
            </Button>
            {isOpen && <Begin view={view} newest={newest} onChanged={onChanged} />}
          </>
        )
      )}
    </Box>
  );
}

/** The nearest limit, tightened until the newest value is beyond it. */
function tightenedBy(limits: Limits, newest: number, by: number, decimals: number): Limits {
  const below = roundTo(newest - by, decimals);
  return {
    farLow: limits.farLow,
    low: limits.low !== null && limits.low < below ? limits.low : null,
    high: below,
    farHigh: limits.farHigh,
  };
}

function Begin({
  view,
  newest,
  onChanged,
}: {
  view: ChannelWatchView;
  newest: number | null;
  onChanged: () => Promise<void>;
}) {
  const { rule } = view.rules[0]!;
  const [way, setWay] = useState<'tightened' | 'disturbed'>('tightened');
  const [limits, setLimits] = useState<Limits>(() =>
    newest === null
      ? rule.limits
      : tightenedBy(rule.limits, newest, Math.max(rule.hysteresis, 2 * 10 ** -view.decimals), view.decimals),
  );
  const [told, setTold] = useState('');
  const [minutes, setMinutes] = useState<number | null>(30);
  const begin = useMutation({
    mutationFn: () =>
      send('POST', addressOf(view), {
        proofId: newId(),
        tightened: way === 'tightened' ? limits : null,
        told,
        minutes: minutes ?? 30,
      } satisfies BeginProof),
    onSuccess: onChanged,
  });
  return (
    <Box
      component="form"
      aria-label="Begin a proof"
      onSubmit={(e) => {
        e.preventDefault();
        begin.mutate();
      }}
      sx={openForm}
    >
      <Typography variant="body2">
        It will ring as in earnest: whoever is told of alarms hears of it. Whatever else acts on this sensor
        acts too; put outputs in hand first. The limits come back by themselves after the time given, and the
        values of the proof are marked.
      </Typography>
      <TextField select label="How" value={way} onChange={(e) => setWay(e.target.value as typeof way)}>
        <MenuItem value="tightened">Tighten its limits for a moment</MenuItem>
        <MenuItem value="disturbed">Disturb the sensor: breathe on it, warm it, lift it</MenuItem>
      </TextField>
      {way === 'tightened' && (
        <Box sx={fieldGrid(130)}>
          {(['low', 'high'] as const).map((f) => (
            <NumberField
              key={f}
              label={`${limitNames[f]}, ${view.unit}`}
              value={limits[f]}
              onChange={(n) => setLimits({ ...limits, [f]: n })}
              {...(newest !== null && { help: `now ${formatValue(newest, view.decimals)}` })}
            />
          ))}
        </Box>
      )}
      <Box sx={fieldGrid(200)}>
        <TextField label="Who was told beforehand" value={told} onChange={(e) => setTold(e.target.value)} />
        <NumberField
          label="Limits come back after, min"
          value={minutes}
          low={5}
          high={240}
          empty={false}
          onChange={setMinutes}
        />
      </Box>
      <Button
        type="submit"
        variant="contained"
        sx={{ ...gloved, justifySelf: 'start' }}
        disabled={told.trim().length < 2 || begin.isPending}
      >
        Begin the proof
      </Button>
      <ProblemNote error={begin.error} />
    </Box>
  );
}

function Running({
  view,
  proof,
  may,
  onChanged,
}: {
  view: ChannelWatchView;
  proof: ProofView;
  may: boolean;
  onChanged: () => Promise<void>;
}) {
  const [note, setNote] = useState('');
  const step = useMutation({
    mutationFn: ({ path, body }: { path: string; body: object }) =>
      send('POST', `${addressOf(view)}/${path}`, body),
    onSuccess: onChanged,
  });
  const end = (outcome: EndProof['outcome']) =>
    step.mutate({ path: 'end', body: { outcome, note } satisfies EndProof });
  const { alarm } = proof;
  const at = (iso: string) => timeText(iso, view.zone).slice(11, 16);
  const cleared = alarm?.returnedAt && alarm.ended !== 'rule' ? alarm.returnedAt : null;
  const steps: { done: boolean; text: string; act?: { label: string; path: string } | undefined }[] = [
    { done: true, text: `Begun ${at(proof.begunAt)} by ${proof.by}; told: ${proof.told}` },
    {
      done: alarm !== null,
      text: alarm
        ? `It rang at ${at(alarm.raisedAt)}: ${alarm.says}`
        : 'It rings when the next values arrive: collect, or wait.',
    },
    {
      done: proof.receivedAt !== null,
      text: proof.receivedAt
        ? `It arrived at the end of the chain, said at ${at(proof.receivedAt)}`
        : `Did it arrive? ${alarm && alarm.messages.length > 0 ? alarm.messages.map((m) => `${m.receiver}: ${m.state}`).join(', ') : 'No message yet.'}`,
      act: alarm && !proof.receivedAt ? { label: 'It arrived', path: 'received' } : undefined,
    },
    ...(proof.tightened
      ? [
          {
            done: proof.restoredAt !== null,
            text: proof.restoredAt
              ? `Limits put back at ${at(proof.restoredAt)}`
              : `Limits are tightened; they come back by themselves at ${at(proof.restoreBy)}`,
            act: proof.restoredAt ? undefined : { label: 'Put the limits back', path: 'restore' },
          },
        ]
      : []),
    {
      done: cleared !== null,
      text: cleared ? `It cleared at ${at(cleared)}` : 'It clears when a value arrives that is within.',
    },
  ];
  return (
    <Box
      sx={{ ...openForm, mt: 1, borderColor: 'warning.main', borderWidth: 2 }}
      aria-label="Proof under way"
      role="group"
    >
      <Box component="ol" sx={{ m: 0, pl: 0, listStyle: 'none', display: 'grid', gap: 0.5 }}>
        {steps.map((s, i) => (
          <Box
            component="li"
            key={i}
            sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}
          >
            <StateMark state={s.done ? 'sound' : 'missing'} />
            <Typography sx={{ flex: '1 1 200px' }}>{s.text}</Typography>
            {may && s.act && (
              <Button
                variant="contained"
                sx={gloved}
                disabled={step.isPending}
                onClick={() => step.mutate({ path: s.act!.path, body: {} })}
              >
                {s.act.label}
              </Button>
            )}
          </Box>
        ))}
      </Box>
      {may && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
          <TextField
            label="Note"
            value={note}
            onChange={(e) => setNote(e.target.value)}
            sx={{ flex: '1 1 200px' }}
          />
          <Button
            variant="contained"
            sx={gloved}
            disabled={!proof.canEnd || step.isPending}
            onClick={() => end('proved')}
          >
            Proved
          </Button>
          <Button sx={gloved} disabled={step.isPending} onClick={() => end('broken off')}>
            Break it off
          </Button>
        </Box>
      )}
      {proof.missing.length > 0 && (
        <Typography variant="body2" color="text.secondary">
          Missing yet: {proof.missing.join('; ')}.
        </Typography>
      )}
      <ProblemNote error={step.error} />
    </Box>
  );
}
