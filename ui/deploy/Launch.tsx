'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { StampDeployment, StopLogger } from '@/contract/deployRequests';
import type { DeploymentView, ExpectedDaysView } from '@/contract/deployViews';
import { daysText, type Days } from '@/core/deploy/lasting';
import { fullKinds, startKinds } from '@/core/deploy/launch';
import { intervalText } from '@/core/plan/endurance';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { InstantField } from '../shared/DateFields';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { CollectButton } from '../station/CollectButton';
import { useStationBasics } from '../station/StationBasics';
import { NotData } from './NotData';
import { SaidOutcome, type Said } from '../shared/SaidOutcome';

const range = ({ low, high }: ExpectedDaysView): Days => ({ low: low ?? Infinity, high: high ?? Infinity });

/** One launch: what it was told, where it hung from when to when, what was read out of it. */
export function Launch({
  stationId,
  launch,
  newest,
  onChanged,
}: {
  stationId: string;
  launch: DeploymentView;
  newest: boolean;
  onChanged: () => Promise<void>;
}) {
  const { zone } = useStationBasics();
  const mayMeasure = useMay('measure');
  const base = `/api/v1/stations/${stationId}`;
  const stop = useMutation({
    mutationFn: () =>
      send<Said>('POST', `${base}/deployment/stop`, { actionId: newId() } satisfies StopLogger),
    onSuccess: onChanged,
  });
  const { record } = launch;
  return (
    <Box
      component="section"
      aria-label={`Launch ${launch.description}${newest ? '' : `, ${launch.launchedAt.slice(0, 10)}`}`}
      sx={{ border: 1, borderColor: 'divider', p: 1.5, my: 1.5, display: 'grid', gap: 1 }}
    >
      <Typography variant={newest ? 'h2' : 'h3'}>
        {launch.description}
        {launch.endedAt ? ' · ended' : ' · launched'}
      </Typography>
      <Typography>
        Launched {timeText(launch.launchedAt, zone)} by {launch.initials},{' '}
        {startKinds[launch.start].says.toLowerCase()}
        {launch.startAt && ` (${timeText(launch.startAt, zone)})`}; {launch.channels} channels every{' '}
        {intervalText(launch.storeEvery)}; {fullKinds[launch.whenFull].says.toLowerCase()}.
        {launch.endedAt && ` Ended ${timeText(launch.endedAt, zone)}.`}
      </Typography>
      <Typography>
        It was said to last <b>{daysText(range(launch.expected.ends))}</b>
        {launch.expected.ends.low !== null &&
          `: read it out by ${timeText(Date.parse(launch.launchedAt) + launch.expected.ends.low * 86_400_000, zone).slice(0, 10)}`}
        .
      </Typography>
      {launch.expected.sums.map((s) => (
        <Sum key={s}>{s}</Sum>
      ))}
      <Stamp stationId={stationId} launch={launch} what="hung" at={launch.hungAt} onChanged={onChanged} />
      <Stamp
        stationId={stationId}
        launch={launch}
        what="taken-down"
        at={launch.takenDownAt}
        onChanged={onChanged}
      />
      <Typography>
        {record
          ? `Read out: ${record.rows} rows, ${timeText(record.from, zone)} to ${timeText(record.until, zone)}.`
          : 'Nothing of it was read out yet.'}
      </Typography>
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        {newest && mayMeasure && <CollectButton stationId={stationId} onDone={() => void onChanged()} />}
        {record && (
          <Button component="a" href={`${base}/deployments/${launch.id}/read-out.csv`} sx={gloved}>
            Save as a file
          </Button>
        )}
        {newest && mayMeasure && !launch.endedAt && (
          <Button sx={gloved} disabled={stop.isPending} onClick={() => stop.mutate()}>
            Stop it
          </Button>
        )}
      </Box>
      <SaidOutcome said={stop.data} />
      <ProblemNote error={stop.error} />
      {launch.notData.map((p) => (
        <NotData
          key={`${p.which} ${p.from} ${p.until}`}
          stationId={stationId}
          launchId={launch.id}
          proposal={p}
          onChanged={onChanged}
        />
      ))}
    </Box>
  );
}

const words = {
  hung: {
    said: 'Hangs where it measures since',
    unsaid: 'Nobody said when it hung where it measures.',
    now: 'It hangs now',
    at: 'Hung',
  },
  'taken-down': {
    said: 'Taken down',
    unsaid: 'Nobody said when it was taken down.',
    now: 'Taken down now',
    at: 'Taken down',
  },
} as const;

/** When it hung, or was taken down: on one key now, or at a time. */
function Stamp({
  stationId,
  launch,
  what,
  at,
  onChanged,
}: {
  stationId: string;
  launch: DeploymentView;
  what: StampDeployment['what'];
  at: string | null;
  onChanged: () => Promise<void>;
}) {
  const { zone, code } = useStationBasics();
  const mayMeasure = useMay('measure');
  const [typed, setTyped] = useState<number | null>(null);
  const say = useFieldWrite<'launchStamp'>(async () => {
    setTyped(null);
    await onChanged();
  });
  const stamp = (occurredAt: string) =>
    say.mutate({
      kind: 'launchStamp',
      stationId,
      params: { deploymentId: launch.id },
      where: code,
      zone,
      body: { stampId: newId(), what, occurredAt },
    });
  const w = words[what];
  return (
    <Box>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
        <Typography sx={{ minWidth: 260 }}>{at ? `${w.said} ${timeText(at, zone)}.` : w.unsaid}</Typography>
        {mayMeasure && typed === null && (
          <>
            {!at && (
              <Button
                sx={gloved}
                variant="outlined"
                disabled={say.isPending}
                onClick={() => stamp(nowText())}
              >
                {w.now}
              </Button>
            )}
            <Button
              sx={gloved}
              onClick={() => setTyped(at ? Date.parse(at) : Number.NaN)}
              aria-label={`${at ? 'Correct' : 'Give'} the time: ${w.at}`}
            >
              {at ? 'Correct' : 'Give the time'}
            </Button>
          </>
        )}
        {typed !== null && (
          <>
            <InstantField label={w.at} value={typed} zone={zone} onChange={setTyped} />
            <Button
              sx={gloved}
              variant="outlined"
              disabled={!Number.isFinite(typed) || say.isPending}
              onClick={() => stamp(new Date(typed).toISOString())}
            >
              Say it
            </Button>
            <Button sx={gloved} onClick={() => setTyped(null)}>
              Leave it
            </Button>
          </>
        )}
      </Box>
      {say.data?.kept && <Typography role="status">Kept on this device until it can be sent.</Typography>}
      <ProblemNote error={say.error} />
    </Box>
  );
}
