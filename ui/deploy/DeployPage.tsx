'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useState } from 'react';
import type { DeployView } from '@/contract/deployViews';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useView } from '../shared/useView';
import { Cautions } from '../station/Cautions';
import { StationHead } from '../station/StationHead';
import { UnknownActions } from '../station/UnknownActions';
import { BeforeYouLeave } from './BeforeYouLeave';
import { Launch } from './Launch';
import { LaunchForm } from './LaunchForm';

/** A logger that is launched and left alone: launch it, walk away from it, read it out, and say what of it is no data. */
export function DeployPage({ initial }: { initial: DeployView }) {
  const path = `/api/v1/stations/${initial.stationId}/deployment`;
  const { data, error, changed } = useView<DeployView>(path, initial);
  const mayMeasure = useMay('measure');
  const [current, ...earlier] = data.launches;
  const running = current !== undefined && current.endedAt === null;
  const [launching, setLaunching] = useState(false);
  return (
    <>
      <StationHead stationId={data.stationId} code={data.code} name={data.name}>
        {data.logger && running && mayMeasure && (
          <Button sx={gloved} onClick={() => setLaunching((l) => !l)}>
            {launching ? 'Close the form' : 'Launch it anew'}
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
      {!data.logger && (
        <Typography>
          The logger of this station is not one that is launched: it records from when its{' '}
          <Box
            component={PageLink}
            href={`/stations/${data.stationId}/connect#settings`}
            sx={{ color: 'inherit' }}
          >
            settings
          </Box>{' '}
          are written.
        </Typography>
      )}
      {data.logger && (
        <>
          {mayMeasure && (!running || launching) && (
            <LaunchForm
              key={current?.id ?? 'first'}
              view={data}
              logger={data.logger}
              onLaunched={async () => {
                setLaunching(false);
                await changed();
              }}
            />
          )}
          {current ? (
            <Launch stationId={data.stationId} launch={current} newest onChanged={changed} />
          ) : (
            <Typography sx={{ my: 1 }}>It was not launched from here yet.</Typography>
          )}
          {mayMeasure && running && <BeforeYouLeave stationId={data.stationId} launchId={current.id} />}
          {earlier.length > 0 && (
            <Typography variant="h2" sx={{ mt: 3 }}>
              Earlier launches
            </Typography>
          )}
          {earlier.map((l) => (
            <Launch key={l.id} stationId={data.stationId} launch={l} newest={false} onChanged={changed} />
          ))}
        </>
      )}
    </>
  );
}
