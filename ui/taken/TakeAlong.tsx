'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import LinearProgress from '@mui/material/LinearProgress';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import type { RoundStop, RoundView } from '@/contract/views';
import { formatValue } from '@/core/quantity/format';
import { Age } from '../shared/Age';
import { Cairn } from '../shared/Cairn';
import { usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { heldDays, type HeldStop } from './store';
import { letStopGo, takeAlong, useTaken } from './taken';

/** So many stops are proposed: the first of the Round. */
const proposed = 10;

/** Stops to be held on this device for where there is no signal: which, how old, how much room they take. */
export function TakeAlong({ round }: { round: RoundView }) {
  const person = usePerson();
  const { stops: heldStops, holdsNothing } = useTaken();
  const held = new Map((heldStops ?? []).map((h) => [h.stationId, h]));
  const [chosen, setChosen] = useState<ReadonlySet<string> | null>(null);
  const first = round.stops.slice(0, proposed).map((s) => s.stationId);
  // Until somebody chose: what is held already, else the first of the Round.
  const ticked = chosen ?? new Set(held.size > 0 ? held.keys() : first);
  const [filter, setFilter] = useState('');
  const [done, setDone] = useState(0);
  const stopping = useRef<AbortController | null>(null);
  const wanted = round.stops.flatMap((stop, rank) => (ticked.has(stop.stationId) ? [{ stop, rank }] : []));
  const take = useMutation({
    mutationFn: () => {
      stopping.current = new AbortController();
      setDone(0);
      return takeAlong(person.id, wanted, setDone, stopping.current.signal);
    },
  });
  const tick = (id: string, isOn: boolean) =>
    setChosen(new Set(isOn ? [...ticked, id] : [...ticked].filter((t) => t !== id)));
  const shown = round.stops.filter((s) =>
    `${s.code} ${s.name} ${s.site}`.toLowerCase().includes(filter.trim().toLowerCase()),
  );
  const bytes = [...held.values()].reduce((n, h) => n + h.bytes, 0);
  return (
    <>
      <Typography variant="h1" sx={{ mb: 1 }}>
        Take along
      </Typography>
      <Typography sx={{ mb: 2, maxWidth: 760 }}>
        In a cabinet, a shed or a bog there is often no signal. A stop that was taken along is on this device:
        its sheet and signal paths, wiring sheet, last values, open checks, kit, cautions, and its pictures in
        small. It is asked for anew while there is a signal, and goes when you sign out, or {heldDays} days
        after it was taken.
      </Typography>
      {holdsNothing && (
        <Typography role="alert" sx={{ mb: 2 }}>
          This browser holds nothing on the device: leave its private mode, or use another one.
        </Typography>
      )}
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center', mb: 1 }}>
        <Button
          variant="contained"
          sx={gloved}
          disabled={take.isPending || wanted.length === 0 || holdsNothing}
          onClick={() => take.mutate()}
        >
          Take {wanted.length} {wanted.length === 1 ? 'stop' : 'stops'} along
        </Button>
        <Button sx={gloved} disabled={take.isPending} onClick={() => setChosen(new Set(first))}>
          First {first.length} of the Round
        </Button>
        {take.isPending && (
          <Button sx={gloved} onClick={() => stopping.current?.abort()}>
            Stop
          </Button>
        )}
        <TextField
          label="Filter"
          value={filter}
          onChange={(e) => setFilter(e.target.value)}
          sx={{ ml: { md: 'auto' } }}
        />
      </Box>
      <Box role="status" sx={{ minHeight: 28 }}>
        {take.isPending ? (
          <>
            {done} of {wanted.length} taken along
            <LinearProgress
              variant="determinate"
              aria-label="Stops taken along"
              value={wanted.length ? (100 * done) / wanted.length : 0}
            />
          </>
        ) : (
          <Typography color="text.secondary">
            {held.size === 0
              ? 'Nothing is held on this device.'
              : `${held.size} ${held.size === 1 ? 'stop' : 'stops'} held, ${formatValue(bytes / 1e6, 1)} MB.`}
          </Typography>
        )}
      </Box>
      <ProblemNote error={take.error} />
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0, borderTop: 2, borderColor: 'text.primary' }}>
        {shown.map((stop) => (
          <Line
            key={stop.stationId}
            stop={stop}
            held={held.get(stop.stationId) ?? null}
            isTicked={ticked.has(stop.stationId)}
            onTick={(isOn) => tick(stop.stationId, isOn)}
            onLetGo={() => {
              tick(stop.stationId, false);
              void letStopGo(person.id, stop.stationId);
            }}
          />
        ))}
      </Box>
      {shown.length === 0 && <Typography>No stop matches “{filter}”.</Typography>}
      {round.total > round.stops.length && (
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          The {round.stops.length} worst of {round.total} stops.
        </Typography>
      )}
    </>
  );
}

function Line({
  stop,
  held,
  isTicked,
  onTick,
  onLetGo,
}: {
  stop: RoundStop;
  held: HeldStop | null;
  isTicked: boolean;
  onTick: (isOn: boolean) => void;
  onLetGo: () => void;
}) {
  return (
    <Box
      component="li"
      sx={{
        display: 'flex',
        flexWrap: 'wrap',
        alignItems: 'center',
        columnGap: 1.5,
        minHeight: 56,
        borderBottom: 1,
        borderColor: 'divider',
      }}
    >
      <FormControlLabel
        sx={{ minHeight: 48, flexGrow: 1, minWidth: 220 }}
        control={<Checkbox checked={isTicked} onChange={(e) => onTick(e.target.checked)} />}
        label={
          <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
            <Cairn cairn={stop.cairn} size={36} />
            <span>
              <b>{stop.name}</b>{' '}
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {stop.site} · {stop.code}
              </Box>
            </span>
          </Box>
        }
      />
      {held ? (
        <>
          <Typography variant="body2">
            held, taken <Age at={held.takenAt} />, {formatValue(held.bytes / 1000, 0)} kB
          </Typography>
          <Button size="small" sx={{ minHeight: 44 }} onClick={onLetGo} aria-label={`Let ${stop.code} go`}>
            Let go
          </Button>
        </>
      ) : (
        <Typography variant="body2" color="text.secondary">
          not held
        </Typography>
      )}
    </Box>
  );
}
