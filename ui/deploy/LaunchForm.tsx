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
import type { LaunchLogger } from '@/contract/deployRequests';
import type { DeployView } from '@/contract/deployViews';
import { fullKinds, startKinds } from '@/core/deploy/launch';
import type { StartsBy, WhenFull } from '@/core/device/loggerProfile';
import { newId, send } from '../shared/api';
import { InstantField } from '../shared/DateFields';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useStationBasics } from '../station/StationBasics';
import { HowLong } from './HowLong';
import { SaidOutcome, type Said } from '../shared/SaidOutcome';

/** What a logger is told when it is launched, and how long it lasts so. */
export function LaunchForm({
  view,
  logger,
  onLaunched,
}: {
  view: DeployView;
  logger: NonNullable<DeployView['logger']>;
  onLaunched: () => Promise<void>;
}) {
  const { zone } = useStationBasics();
  const { standAlone } = logger;
  const [description, setDescription] = useState(`${view.code} ${view.name}`.slice(0, 32));
  const [start, setStart] = useState<StartsBy>(
    standAlone.starts.find((s) => startKinds[s].advised) ?? standAlone.starts[0]!,
  );
  const [startAt, setStartAt] = useState(Number.NaN);
  const [whenFull, setWhenFull] = useState<WhenFull>(standAlone.whenFull[0]!);
  const [storesBattery, setStoresBattery] = useState(false);
  const [discard, setDiscard] = useState(false);
  const launch = useMutation({
    mutationFn: () =>
      send<Said>('POST', `/api/v1/stations/${view.stationId}/deployment/launch`, {
        actionId: newId(),
        deploymentId: newId(),
        after: view.launches[0]?.id ?? null,
        description,
        start,
        startAt: start === 'at' && Number.isFinite(startAt) ? new Date(startAt).toISOString() : null,
        whenFull,
        storesBattery,
        discard,
      } satisfies LaunchLogger),
    onSuccess: onLaunched,
  });
  const stores = view.channels.map((c) => c.name);
  return (
    <Box component="section" aria-label="Launch" sx={{ display: 'grid', gap: 2, my: 1 }}>
      <Typography variant="h2">Launch {logger.serial}</Typography>
      <Typography>
        {stores.length === 0 ? (
          <b>Nothing is stored yet: write the settings of its channels under Connect first.</b>
        ) : (
          <>
            It stores {stores.join(', ')}. Channels are switched on and off by their settings under Connect.
          </>
        )}
        {view.staged.length > 0 && <b> Settings of channel {view.staged.join(', ')} wait to be written.</b>}
      </Typography>
      <HowLong view={view} logger={logger} storesBattery={storesBattery} />
      <TextField
        label="Description, as the logger keeps it"
        value={description}
        onChange={(e) => setDescription(e.target.value)}
        slotProps={{ htmlInput: { maxLength: 80 } }}
        sx={{ maxWidth: 420 }}
      />
      <Box>
        <Typography variant="h3" id="launch-start">
          It begins
        </Typography>
        <RadioGroup
          aria-labelledby="launch-start"
          value={start}
          onChange={(e) => setStart(e.target.value as StartsBy)}
        >
          {standAlone.starts.map((s) => (
            <Choice
              key={s}
              value={s}
              says={`${startKinds[s].says}${startKinds[s].advised ? ' (advised)' : ''}`}
              why={startKinds[s].why}
            />
          ))}
        </RadioGroup>
        {start === 'at' && <InstantField label="Begins" value={startAt} zone={zone} onChange={setStartAt} />}
      </Box>
      <Box>
        <Typography variant="h3" id="launch-full">
          When its memory is full
        </Typography>
        <RadioGroup
          aria-labelledby="launch-full"
          value={whenFull}
          onChange={(e) => setWhenFull(e.target.value as WhenFull)}
        >
          {standAlone.whenFull.map((w) => (
            <Choice key={w} value={w} says={fullKinds[w].says} why={fullKinds[w].means} />
          ))}
        </RadioGroup>
      </Box>
      <Box>
        {standAlone.storesBattery && (
          <FormControlLabel
            control={
              <Checkbox checked={storesBattery} onChange={(e) => setStoresBattery(e.target.checked)} />
            }
            label="Store the voltage of its own battery too: one more reading a row"
          />
        )}
        <FormControlLabel
          control={<Checkbox checked={discard} onChange={(e) => setDiscard(e.target.checked)} />}
          label="What lies in its memory and was not read out may be lost"
        />
      </Box>
      <Box>
        <Button
          variant="contained"
          sx={gloved}
          disabled={
            launch.isPending ||
            stores.length === 0 ||
            description.trim().length < 3 ||
            (start === 'at' && !Number.isFinite(startAt))
          }
          onClick={() => launch.mutate()}
        >
          Launch it
        </Button>
        <Typography variant="body2" color="text.secondary" sx={{ mt: 0.5 }}>
          A launch wipes its memory. What it was told is read back.
        </Typography>
        <SaidOutcome said={launch.data} />
        <ProblemNote error={launch.error} />
      </Box>
    </Box>
  );
}

/** One of several, with what it means below it. */
function Choice({ value, says, why }: { value: string; says: string; why: string }) {
  return (
    <FormControlLabel
      value={value}
      control={<Radio />}
      sx={{ alignItems: 'flex-start', mb: 0.5 }}
      label={
        <Box sx={{ pt: 1 }}>
          {says}
          <Typography variant="body2" color="text.secondary">
            {why}
          </Typography>
        </Box>
      }
    />
  );
}
