'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Link from '@mui/material/Link';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import PageLink from '../shared/PageLink';
import { useState } from 'react';
import {
  mostAssigned,
  type AssignReadings,
  type HandheldReadingsView,
  type HandheldReadingView,
} from '@/contract/handheld';
import { quantityOf } from '@/core/quantity/quantity';
import { newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useView } from '../shared/useView';
import { BringIn } from './BringIn';

/** Readings that handhelds kept without a site: by time, each beside the visit it is likely of, until assigned. */
export function HandheldReadings({ initial }: { initial: HandheldReadingsView }) {
  const { data, error, changed } = useView<HandheldReadingsView>('/api/v1/handheld-readings', initial);
  const mayMeasure = useMay('measure');
  const waiting = data.readings.filter((r) => !r.assigned);
  const assigned = data.readings.filter((r) => r.assigned);
  return (
    <>
      <Typography variant="h1" sx={{ mb: 1 }}>
        Readings of handhelds
      </Typography>
      <Typography sx={{ mb: 2, maxWidth: 760 }}>
        A handheld keeps readings without knowing where it stands. Its list is brought in here, and each
        reading is given to its station: there it has its line in the field book, at the time it was read.
      </Typography>
      <ProblemNote error={error} />
      {mayMeasure && <BringIn instruments={data.instruments} onDone={changed} />}
      <Typography variant="h2" sx={{ mb: 1 }}>
        {data.unassigned === 0
          ? 'None waits for a site'
          : `${data.unassigned} ${data.unassigned === 1 ? 'waits' : 'wait'} for a site`}
      </Typography>
      {waiting.length > 0 && (
        <Assign readings={waiting} stations={data.stations} mayAssign={mayMeasure} onDone={changed} />
      )}
      {assigned.length > 0 && (
        <>
          <Typography variant="h2" sx={{ mt: 3, mb: 1 }}>
            Assigned
          </Typography>
          <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }}>
            {assigned.map((r) => (
              <Assigned key={r.id} reading={r} mayTakeBack={mayMeasure} onDone={changed} />
            ))}
          </Box>
        </>
      )}
    </>
  );
}

const says = (r: HandheldReadingView): string =>
  [`${quantityOf(r.quantity).name} ${r.entered} ${r.unit}`, r.label, r.instrument ?? r.fileName, r.initials]
    .filter(Boolean)
    .join(' · ');

function Assign({
  readings,
  stations,
  mayAssign,
  onDone,
}: {
  readings: readonly HandheldReadingView[];
  stations: HandheldReadingsView['stations'];
  mayAssign: boolean;
  onDone: () => Promise<void>;
}) {
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [stationId, setStationId] = useState('');
  const [channelId, setChannelId] = useState('');
  const chosen = readings.filter((r) => ticked.has(r.id));
  const likely = chosen.find((r) => r.likely)?.likely?.stationId ?? '';
  const target = stationId || likely;
  const station = stations.find((s) => s.id === target);
  const quantities = new Set(chosen.map((r) => r.quantity));
  const channels =
    quantities.size === 1 ? (station?.channels.filter((c) => quantities.has(c.quantity)) ?? []) : [];
  const assign = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${target}/handheld-readings`, {
        assignmentId: newId(),
        readingIds: chosen.slice(0, mostAssigned).map((r) => r.id),
        channelId: channels.some((c) => c.id === channelId) ? channelId : null,
        occurredAt: nowText(),
      } satisfies AssignReadings),
    onSuccess: async () => {
      setTicked(new Set());
      setStationId('');
      setChannelId('');
      await onDone();
    },
  });
  const tick = (ids: readonly string[], isOn: boolean) =>
    setTicked(new Set(isOn ? [...ticked, ...ids] : [...ticked].filter((t) => !ids.includes(t))));
  return (
    <>
      {mayAssign && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1 }}>
          <TextField
            select
            label="Belongs to"
            value={station ? target : ''}
            onChange={(e) => {
              setStationId(e.target.value);
              setChannelId('');
            }}
            sx={{ minWidth: 220 }}
          >
            {stations.map((s) => (
              <MenuItem key={s.id} value={s.id}>
                {s.code} {s.name}
              </MenuItem>
            ))}
          </TextField>
          {channels.length > 0 && (
            <TextField
              select
              label="Beside"
              value={channels.some((c) => c.id === channelId) ? channelId : ''}
              onChange={(e) => setChannelId(e.target.value)}
              sx={{ minWidth: 200 }}
            >
              <MenuItem value="">no channel</MenuItem>
              {channels.map((c) => (
                <MenuItem key={c.id} value={c.id}>
                  {c.name}
                </MenuItem>
              ))}
            </TextField>
          )}
          <Button
            variant="contained"
            sx={gloved}
            disabled={chosen.length === 0 || !station || assign.isPending}
            onClick={() => assign.mutate()}
          >
            Assign {Math.min(chosen.length, mostAssigned)}
          </Button>
          <Button
            sx={gloved}
            onClick={() =>
              tick(
                readings.map((r) => r.id),
                chosen.length < readings.length,
              )
            }
          >
            {chosen.length < readings.length ? 'Tick all' : 'Tick none'}
          </Button>
        </Box>
      )}
      <ProblemNote error={assign.error} />
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0, borderTop: 1, borderColor: 'divider' }}>
        {readings.map((r) => {
          const text = (
            <>
              <time dateTime={r.at}>
                {timeText(r.at, stations.find((s) => s.id === r.likely?.stationId)?.zone)}
              </time>
              {' · '}
              {says(r)}
              {r.likely && (
                <Box component="span" sx={{ color: 'text.secondary' }}>
                  {' · '}
                  {r.initials} was at {r.likely.code} then
                </Box>
              )}
            </>
          );
          return (
            <Box component="li" key={r.id} sx={{ borderBottom: 1, borderColor: 'divider', minHeight: 48 }}>
              {mayAssign ? (
                <FormControlLabel
                  sx={{ minHeight: 48 }}
                  control={
                    <Checkbox checked={ticked.has(r.id)} onChange={(e) => tick([r.id], e.target.checked)} />
                  }
                  label={text}
                />
              ) : (
                text
              )}
            </Box>
          );
        })}
      </Box>
    </>
  );
}

function Assigned({
  reading: r,
  mayTakeBack,
  onDone,
}: {
  reading: HandheldReadingView;
  mayTakeBack: boolean;
  onDone: () => Promise<void>;
}) {
  const [reason, setReason] = useState<string | null>(null);
  const { stationId, code, channel } = r.assigned!;
  const takeBack = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${stationId}/handheld-readings/${r.id}/take-back`, { reason }),
    onSuccess: onDone,
  });
  return (
    <Box
      component="li"
      sx={{
        borderBottom: 1,
        borderColor: 'divider',
        minHeight: 48,
        display: 'flex',
        flexWrap: 'wrap',
        gap: 1,
        alignItems: 'center',
      }}
    >
      <Box sx={{ flexGrow: 1 }}>
        <time dateTime={r.at}>{timeText(r.at)}</time> · {says(r)} ·{' '}
        <Link component={PageLink} href={`/field-book?station=${stationId}`}>
          {code}
        </Link>
        {channel && `, beside ${channel}`}
      </Box>
      {mayTakeBack &&
        (reason === null ? (
          <Button key="ask" size="small" sx={{ minHeight: 44 }} onClick={() => setReason('')}>
            Take back …
          </Button>
        ) : (
          <>
            <TextField
              label="Why it does not belong there"
              value={reason}
              autoFocus
              onChange={(e) => setReason(e.target.value)}
            />
            <Button
              key="do"
              sx={gloved}
              disabled={!reason.trim() || takeBack.isPending}
              onClick={() => takeBack.mutate()}
            >
              Take it back
            </Button>
          </>
        ))}
      <ProblemNote error={takeBack.error} />
    </Box>
  );
}
