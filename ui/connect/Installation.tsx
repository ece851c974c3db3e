'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ConnectView, InstallationView, TalkView } from '@/contract/views';
import { faultAdvice } from '@/core/bus/faultAdvice';
import { formatValue } from '@/core/quantity/format';
import { inSentence, quantityOf } from '@/core/quantity/quantity';
import { BeginSearch } from '../line/BeginSearch';
import { useUnsent } from '../outbox/outbox';
import type { Queued } from '../outbox/queued';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { Age } from '../shared/Age';
import { newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';
import { useStationBasics } from '../station/StationBasics';
import { InstallForm } from './InstallForm';
import { LeaveForm } from './LeaveForm';
import { SwapForm } from './SwapForm';

/** One transmitter on the bus: its leads, its supply, and talking to it. */
export function Installation({
  view,
  installation: i,
  onChanged,
}: {
  view: ConnectView;
  installation: InstallationView;
  onChanged: () => Promise<void>;
}) {
  const { stationId } = view;
  const mayMeasure = useMay('measure');
  const [form, setForm] = useState<'swap' | 'leave' | null>(null);
  const toggle = (which: 'swap' | 'leave') => setForm(form === which ? null : which);
  const ended = async () => {
    setForm(null);
    await onChanged();
  };
  const [latest, setLatest] = useState<TalkView | null>(null);
  const base = `/api/v1/stations/${stationId}`;
  const talk = useMutation({
    mutationFn: () => send<TalkView>('POST', `${base}/talk`, { actionId: newId(), installationId: i.id }),
    onSuccess: (view) => {
      setLatest(view);
      void onChanged();
    },
  });
  const params = { installationId: i.id };
  const { code, zone } = useStationBasics();
  const where = `${code} ${i.sensorSerial}`;
  const begin = useFieldWrite<'offLineBegin'>(onChanged);
  const end = useFieldWrite<'offLineEnd'>(onChanged);
  const leadsOff = () =>
    begin.mutate({
      kind: 'offLineBegin',
      stationId,
      params,
      where,
      zone,
      body: { reason: 'leads off for work', occurredAt: nowText() },
    });
  const leadsOn = () =>
    end.mutate({ kind: 'offLineEnd', stationId, params, where, zone, body: { occurredAt: nowText() } });
  const busy = begin.isPending || end.isPending;
  // What was done here and waits to be sent counts as done on this screen.
  const kept = useUnsent().findLast(
    (w): w is Queued<'offLineBegin'> | Queued<'offLineEnd'> =>
      w.state === 'waits' &&
      (w.kind === 'offLineBegin' || w.kind === 'offLineEnd') &&
      w.params.installationId === i.id,
  );
  const offLineSince = kept ? (kept.kind === 'offLineBegin' ? kept.body.occurredAt : null) : i.offLineSince;
  const shown = latest ?? i.lastTalk;
  return (
    <Box
      component="section"
      aria-label={`Sensor ${i.sensorSerial}`}
      sx={{ py: 1.5, borderTop: 1, borderColor: 'divider' }}
    >
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'center' }}>
        <Box sx={{ flexGrow: 1, minWidth: 280 }}>
          <Typography variant="h3">
            {i.at} · {i.modelName} {i.sensorSerial} · {i.zoneName}
          </Typography>
          <Typography variant="body2">
            {i.leads.map((l) => `${l.colour} → ${l.via ? `${l.via} → ` : ''}${l.terminal}`).join(' · ') ||
              'no lead recorded'}
            {i.leads.length < i.leadsNeeded && ` (${i.leads.length} of ${i.leadsNeeded} leads)`}
          </Typography>
          <Typography variant="body2">
            {i.connection}
            {i.supply && (
              <>
                {' '}
                · <Sum>{i.supply.sum}</Sum> {i.supply.inRange ? '' : <b>outside its range</b>}
              </>
            )}
          </Typography>
          <Typography variant="body2" color="text.secondary">
            feeds {i.channels.map((c) => `channel ${c.number} ${inSentence(c.quantity)}`).join(', ')}
          </Typography>
        </Box>
        {mayMeasure && (
          <Box sx={{ display: 'flex', gap: 2 }}>
            <Button variant="contained" sx={gloved} disabled={talk.isPending} onClick={() => talk.mutate()}>
              {talk.isPending ? 'Talking …' : 'Talk'}
            </Button>
            {offLineSince ? (
              <Button key="on" sx={gloved} disabled={busy} onClick={leadsOn}>
                Back on-line
              </Button>
            ) : (
              <Button
                key="off"
                sx={gloved}
                disabled={busy}
                onClick={leadsOff}
                title="Marks the record from now on: not real"
              >
                Leads off
              </Button>
            )}
          </Box>
        )}
      </Box>
      {offLineSince && (
        <Typography sx={{ mt: 0.5 }}>
          <b>Off-line</b> since <Age at={offLineSince} />
          {kept && ' (kept on this device)'}: what is logged meanwhile is marked as not real.
        </Typography>
      )}
      <ProblemNote error={talk.error ?? begin.error ?? end.error} />
      {mayMeasure && (
        <Box sx={{ display: 'flex', gap: 1, my: 0.5 }}>
          <Button size="small" onClick={() => toggle('swap')} aria-expanded={form === 'swap'}>
            Swap it
          </Button>
          <Button size="small" onClick={() => toggle('leave')} aria-expanded={form === 'leave'}>
            Take it out
          </Button>
        </Box>
      )}
      {form === 'swap' &&
        (i.busId === null ? (
          <SwapForm stationId={stationId} installation={i} onSwapped={ended} />
        ) : (
          <InstallForm view={view} replaces={i} onInstalled={ended} />
        ))}
      {form === 'leave' && <LeaveForm stationId={stationId} installation={i} onLeft={ended} />}
      {shown && <TalkResult talk={shown} />}
      {mayMeasure && shown?.fault && i.busId !== null && (
        <BeginSearch stationId={stationId} installationId={i.id} />
      )}
    </Box>
  );
}

function TalkResult({ talk }: { talk: TalkView }) {
  const advice = talk.fault ? faultAdvice(talk.fault) : null;
  return (
    <Box
      sx={{ mt: 1, pl: 2, borderLeft: 4, borderColor: talk.fault ? 'error.main' : 'secondary.main' }}
      role="status"
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <StateMark state={talk.fault ? 'displaced' : 'sound'} />
        <b>{advice ? `${advice.title}: ${talk.detail}` : 'It answers'}</b>
        <Box component="span" sx={{ color: 'text.secondary' }}>
          <Age at={talk.at} />
        </Box>
      </Box>
      <Box
        component="pre"
        sx={{
          m: 0,
          my: 0.5,
          fontFamily: '"IBM Plex Mono", monospace',
          fontSize: '0.88rem',
          whiteSpace: 'pre-wrap',
          overflowWrap: 'anywhere',
        }}
      >
        {talk.frames
          .map(
            (f) =>
              `${{ sent: '→ sent    ', received: '← received', 'too-late': '← too late' }[f.direction]} ${f.hex}   (${f.after} ms)`,
          )
          .join('\n')}
      </Box>
      {talk.decoded.map((d) => {
        const q = quantityOf(d.quantity);
        // Two of one quantity are told apart by their keys.
        const alike = talk.decoded.filter((o) => o.quantity === d.quantity).length > 1;
        return (
          <Typography key={d.output} variant="body2">
            {q.name}
            {alike && ` (${d.output})`}:{' '}
            <Sum>{d.register === null ? 'by the logger' : `register ${d.register} = ${d.raw}`}</Sum> →{' '}
            <b>
              {formatValue(d.value, q.decimals)} {q.unit}
            </b>
          </Typography>
        );
      })}
      {advice && (
        <Box component="ol" sx={{ my: 0.5, pl: 2.5 }}>
          {advice.lookAt.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </Box>
      )}
    </Box>
  );
}
