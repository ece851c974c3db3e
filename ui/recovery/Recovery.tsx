'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import type { RecoveryView } from '@/contract/busViews';
import { serialText } from '@/core/bus/serial';
import { recoverySteps } from '@/core/recovery/steps';
import { HoldLine } from '../line/HoldLine';
import { send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { clockText, timeText } from '../shared/time';
import { useView } from '../shared/useView';
import { Cautions } from '../station/Cautions';
import { StationHead } from '../station/StationHead';
import { useStationBasics } from '../station/StationBasics';
import { UnknownActions } from '../station/UnknownActions';
import { Causes } from './Causes';
import { NextStep } from './NextStep';
import { Outcome } from './Outcome';

/** Why does a device not answer? One step after the other, to a cause or to what remains; printed, it is handed on. */
export function Recovery({ initial }: { initial: RecoveryView }) {
  const path = `/api/v1/stations/${initial.stationId}/recoveries/${initial.recoveryId}`;
  const { zone } = useStationBasics();
  const mayMeasure = useMay('measure');
  const { data, error, changed } = useView<RecoveryView>(path, initial, initial.endedAt ? undefined : 5000);
  const end = useMutation({ mutationFn: () => send('POST', `${path}/end`), onSuccess: changed });
  const { state, device, what } = data;
  const ended = data.endedAt !== null;
  const held = data.session !== null && !data.session.over;
  return (
    <Box sx={{ '@media print': { '& button, & nav, & .screen-only': { display: 'none' } } }}>
      <StationHead stationId={data.stationId} code={data.code} name={data.name}>
        <Button component={PageLink} href={`/stations/${data.stationId}/connect/line`} sx={gloved}>
          The line
        </Button>
        <Button sx={gloved} onClick={() => window.print()}>
          Print
        </Button>
      </StationHead>
      <ProblemNote error={error} />
      <UnknownActions
        stationId={data.stationId}
        actions={data.unknownActions}
        onSettled={() => void changed()}
      />
      <Typography variant="h2">Why does {device.serial} not answer?</Typography>
      <Typography color="text.secondary">
        {device.modelName} · {device.zoneName} · {data.lineName}, ID {what.busId}, {serialText(what.serial)} ·
        feeds {device.channels.join(', ') || 'no channel'} · begun {timeText(data.begunAt, zone)} by{' '}
        {data.initials}
        {data.endedAt && `, ended ${timeText(data.endedAt, zone)}`}
      </Typography>
      <Cautions cautions={data.cautions} />
      <Box sx={{ display: 'grid', gap: 3, gridTemplateColumns: { xs: '1fr', md: '3fr 2fr' }, mt: 2 }}>
        <Box sx={{ minWidth: 0 }}>
          <Box
            sx={{
              border: 2,
              borderColor: 'primary.main',
              borderRadius: 2,
              p: 2,
              bgcolor: 'background.paper',
            }}
          >
            {state.verdict !== 'searching' || ended ? (
              <Outcome view={data} onChanged={changed} />
            ) : mayMeasure ? (
              <NextStep view={data} step={state.next!} onChanged={changed} />
            ) : (
              <Typography>
                Next: <b>{recoverySteps[state.next!].title}</b>. {recoverySteps[state.next!].asks(what)}
              </Typography>
            )}
          </Box>
          <Typography variant="h3" sx={{ mt: 2 }}>
            What was tried
          </Typography>
          {data.evidence.length === 0 && <Typography color="text.secondary">Nothing yet.</Typography>}
          <Box component="ol" sx={{ m: 0, pl: 3 }}>
            {data.evidence.map((e) => (
              <Box component="li" key={e.number} sx={{ my: 0.5 }}>
                <b>{stepTitle(e.step)}:</b> {e.says}{' '}
                <Box component="span" sx={{ color: 'text.secondary', fontSize: '0.9em' }}>
                  {clockText(e.at, zone)}, {e.initials}
                </Box>
              </Box>
            ))}
          </Box>
          {mayMeasure && !ended && (
            <Button sx={{ ...gloved, mt: 1 }} disabled={end.isPending} onClick={() => end.mutate()}>
              {state.verdict === 'answers' ? 'Close the search' : 'Give up the search for now'}
            </Button>
          )}
          <ProblemNote error={end.error} />
        </Box>
        <Box sx={{ minWidth: 0 }}>
          <Causes state={state} />
          {data.reconnect.length > 0 && (
            <Box component="section" aria-label="Before you leave" sx={{ mt: 1 }}>
              <Typography variant="h3">Before you leave</Typography>
              <Box component="ul" sx={{ m: 0, pl: 2.5 }}>
                {data.reconnect.map((r) => (
                  <li key={r}>{r}</li>
                ))}
              </Box>
            </Box>
          )}
          {held && (
            <HoldLine
              stationId={data.stationId}
              portId={data.portId}
              lineName={data.lineName}
              session={data.session}
              onChanged={changed}
            />
          )}
        </Box>
      </Box>
    </Box>
  );
}

const stepTitle = (step: RecoveryView['evidence'][number]['step']): string =>
  step === 'mended' ? 'Put right' : step === 'verified' ? 'Through its logger' : recoverySteps[step].title;
