'use client';

import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useState } from 'react';
import type { ConnectView } from '@/contract/views';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useView } from '../shared/useView';
import { Cautions } from '../station/Cautions';
import { StationHead } from '../station/StationHead';
import { UnknownActions } from '../station/UnknownActions';
import { HeldSettings } from './HeldSettings';
import { InstallForm } from './InstallForm';
import { Installation } from './Installation';
import { LoggerClock } from './LoggerClock';
import { LoggerLabel } from './LoggerLabel';
import { OwnSettings } from './OwnSettings';
import { SettingsTable } from './SettingsTable';

/** What is on which terminal, does it answer, and which settings does its logger hold? */
export function Connect({ initial }: { initial: ConnectView }) {
  const path = `/api/v1/stations/${initial.stationId}/connect`;
  const { data, error, changed } = useView<ConnectView>(path, initial);
  const [adding, setAdding] = useState(false);
  const mayMeasure = useMay('measure');
  return (
    <>
      <StationHead stationId={data.stationId} code={data.code} name={data.name}>
        <Button component={PageLink} href={`/stations/${data.stationId}/connect/plan`} sx={gloved}>
          Wiring plan
        </Button>
        {(data.ports.length > 0 ||
          data.installations.some((i) => i.kind === 'sdi-12' || i.kind === 'daisy-chain')) && (
          <Button component={PageLink} href={`/stations/${data.stationId}/connect/line`} sx={gloved}>
            Talk on the line
          </Button>
        )}
        {data.launched && (
          <Button component={PageLink} href={`/stations/${data.stationId}/connect/deploy`} sx={gloved}>
            Launch and read out
          </Button>
        )}
        {mayMeasure && data.ports.length > 0 && (
          <Button variant="contained" sx={gloved} onClick={() => setAdding((a) => !a)}>
            {adding ? 'Close the form' : 'Add a transmitter'}
          </Button>
        )}
      </StationHead>
      <ProblemNote error={error} />
      <UnknownActions
        stationId={data.stationId}
        actions={data.unknownActions}
        onSettled={() => void changed()}
      />
      <Cautions cautions={data.cautions} />
      {adding && (
        <InstallForm
          view={data}
          onInstalled={() => {
            setAdding(false);
            void changed();
          }}
        />
      )}
      <Typography variant="h2" sx={{ mt: 2, mb: 1 }}>
        Connected
      </Typography>
      {data.installations.length === 0 && (
        <Typography>
          Nothing is connected yet. Plan it on the terminals first, or add a transmitter on the serial line.
        </Typography>
      )}
      {data.installations.map((i) => (
        <Installation key={i.id} view={data} installation={i} onChanged={changed} />
      ))}
      <Typography variant="h2" id="settings" sx={{ mt: 4, mb: 1 }}>
        Channel settings
      </Typography>
      <SettingsTable stationId={data.stationId} own={data.own} channels={data.channels} onChanged={changed} />
      {data.own && <OwnSettings stationId={data.stationId} own={data.own} onChanged={changed} />}
      {data.channels.length > 0 && <HeldSettings stationId={data.stationId} onChanged={changed} />}
      <LoggerLabel stationId={data.stationId} label={data.label} onChanged={changed} />
      <LoggerClock stationId={data.stationId} onChanged={() => void changed()} />
    </>
  );
}
