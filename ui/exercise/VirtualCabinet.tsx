'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import PageLink from '../shared/PageLink';
import { useMemo, useState } from 'react';
import type { ExerciseView } from '@/contract/bench';
import { pointText } from '@/core/circuit/circuit';
import {
  debrief,
  exerciseMeter,
  exerciseRig,
  openExercise,
  secondsOff,
  showOn,
  type Act,
  type Shown,
} from '@/core/circuit/exercise';
import { explanationsOf } from '@/core/circuit/explanation';
import type { Measurement, Observation } from '@/core/circuit/measurement';
import type { MeterRange } from '@/core/circuit/meter';
import { leadsOff } from '@/core/circuit/rig';
import { faultWords, measurementText, observationText } from '@/core/circuit/words';
import { Diagram } from '../bench/Diagram';
import { dialText, shownText } from '../bench/texts';
import { gloved } from '../shared/theme';
import { Debriefing } from './Debriefing';

/** s between two values the logger stores. */
const storageInterval = 600;
const lostText = (n: number) => `${n} ${n === 1 ? 'value' : 'values'} lost`;
const clockText = (s: number) => `${Math.floor(s / 60)} min ${String(s % 60).padStart(2, '0')} s`;

/** A cabinet with a hidden fault, a meter with a dial and two clips, and a clock that counts the data lost. */
export function VirtualCabinet({ view, last }: { view: ExerciseView; last: number }) {
  const { exercise, profile, unit } = view;
  const rig = useMemo(() => exerciseRig(profile, profile.outputs[0]!), [profile]);
  const opened = useMemo(() => openExercise(exercise, rig), [exercise, rig]);
  const names = useMemo(() => explanationsOf(rig, true), [rig]);
  const middle = (rig.range[0] + rig.range[1]) / 2;
  const drawn = rig.at(middle);
  const leads = drawn.elements.filter((e) => e.kind === 'lead');
  const points = drawn.points;
  const [acts, setActs] = useState<readonly Act[]>([]);
  const [isOff, setOff] = useState(false);
  const [dial, setDial] = useState<MeterRange>(exerciseMeter[0]!);
  const [clips, setClips] = useState<readonly [string, string]>([points[0]!.node, points[1]!.node]);
  const [through, setThrough] = useState(leads[0]?.id ?? '');
  const [display, setDisplay] = useState<{ shown: Shown; of: Measurement } | null>(null);
  const [readings, setReadings] = useState<readonly Observation[]>([]);
  const [named, setNamed] = useState('none');
  const [ended, setEnded] = useState<ReturnType<typeof debrief> | null>(null);
  const done = (act: Act) => setActs((all) => [...all, act]);
  const read = () => {
    const of: Measurement =
      dial.does === 'ohms'
        ? { kind: 'ohms', from: clips[0], to: clips[1], range: dial }
        : dial.does === 'milliamps'
          ? { kind: 'milliamps', through, range: dial }
          : { kind: 'volts', from: clips[0], to: clips[1], range: dial };
    const before = acts.findLast((a) => a.act === 'read');
    const was = before?.act === 'read' ? before.of : null;
    const on = (m: Measurement | null) => (m && 'from' in m ? [m.from, m.to] : []);
    done({
      act: 'read',
      of,
      clipsMoved: on(of).filter((node) => !on(was).includes(node)).length,
      dialTurned: !was || !('range' in was) || was.range !== dial,
    });
    const shown = showOn(opened, of, isOff);
    setDisplay({ shown, of });
    if (shown.kind === 'reads')
      setReadings((all) => [
        ...all.filter((o) => measurementText(o.of) !== measurementText(of)),
        shown.observation,
      ]);
  };
  const seconds = secondsOff(acts);
  const clip = (which: 0 | 1) => (
    <TextField
      select
      size="medium"
      label={which === 0 ? 'Clip A on' : 'Clip B on'}
      value={clips[which]}
      onChange={(e) => setClips((c) => (which === 0 ? [e.target.value, c[1]] : [c[0], e.target.value]))}
      sx={{ minWidth: 200, flexGrow: 1 }}
    >
      {points.map((p) => (
        <MenuItem key={p.name} value={p.node} sx={{ minHeight: 48 }}>
          {p.at === 'lead end' ? `${pointText(p)}, lead end` : p.name}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap', mb: 1 }}>
        <Typography variant="h1" sx={{ flexGrow: 1 }}>
          {exercise.number} {exercise.title}
        </Typography>
        <Button component={PageLink} href="/exercises" sx={gloved}>
          All exercises
        </Button>
      </Box>
      <Typography sx={{ mb: 1 }}>
        {exercise.story} {profile.name}. The logger shows <b>{observationText(opened.before[0]!, unit)}</b>, a
        reference beside the sensor <b>{observationText(opened.before[1]!, unit)}</b>.
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: 'minmax(0, 1fr)', lg: 'minmax(0, 1fr) minmax(0, 1fr)' },
          gap: 3,
        }}
      >
        <Box>
          <Diagram
            circuit={isOff ? leadsOff(drawn) : drawn}
            clips={dial.does === 'milliamps' ? null : [clips[0], clips[1]]}
            title="Circuit of the cabinet"
          />
          <Typography variant="body2" color="text.secondary">
            As it should be, at the middle of its range.
          </Typography>
          {readings.length > 0 && (
            <Box component="section" aria-label="Read so far" sx={{ mt: 2 }}>
              <Typography variant="h2">Read so far</Typography>
              {readings.map((o) => (
                <div key={measurementText(o.of)}>
                  {measurementText(o.of)}: <b>{observationText(o, unit)}</b>
                </div>
              ))}
            </Box>
          )}
        </Box>
        <Box>
          <Box component="section" aria-label="Meter" sx={{ display: 'grid', gap: 1.5 }}>
            <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
              <Button
                variant={isOff ? 'contained' : 'outlined'}
                sx={gloved}
                disabled={ended !== null}
                onClick={() => {
                  done({ act: isOff ? 'leads-on' : 'leads-off' });
                  setOff((o) => !o);
                  setDisplay(null);
                }}
              >
                {isOff ? 'Leads on again' : 'Leads off'}
              </Button>
              <span role="status">
                {isOff ? 'off-line' : 'on-line'}; off-line {clockText(seconds)} in all,{' '}
                {lostText(Math.ceil(seconds / storageInterval))}
              </span>
            </Box>
            <TextField
              select
              size="medium"
              label="Dial on"
              value={exerciseMeter.indexOf(dial)}
              onChange={(e) => setDial(exerciseMeter[Number(e.target.value)]!)}
            >
              {exerciseMeter.map((r, i) => (
                <MenuItem key={dialText(r)} value={i} sx={{ minHeight: 48 }}>
                  {dialText(r)}
                </MenuItem>
              ))}
            </TextField>
            {dial.does === 'milliamps' ? (
              <TextField
                select
                size="medium"
                label="In series with"
                value={through}
                onChange={(e) => setThrough(e.target.value)}
              >
                {leads.map((l) => (
                  <MenuItem key={l.id} value={l.id} sx={{ minHeight: 48 }}>
                    {l.id}
                  </MenuItem>
                ))}
              </TextField>
            ) : (
              <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
                {clip(0)}
                {clip(1)}
              </Box>
            )}
            <Button variant="contained" sx={gloved} onClick={read} disabled={ended !== null}>
              Read the meter
            </Button>
            <Box
              role="status"
              aria-label="Display"
              sx={{
                fontFamily: '"IBM Plex Mono", monospace',
                fontSize: '1.9rem',
                minHeight: 64,
                px: 2,
                py: 1,
                border: 1,
                borderColor: 'divider',
                bgcolor: 'background.paper',
              }}
            >
              {display ? displayText(display.shown, dial) : '– – –'}
            </Box>
            {display?.shown.kind === 'jumps' && (
              <Typography>It jumps about: is the logger’s excitation still connected?</Typography>
            )}
            {display?.shown.kind === 'nothing' && (
              <Typography>Nothing there: {isOff ? 'the leads are off' : 'no clip is on it'}.</Typography>
            )}
          </Box>
          <Box
            component="form"
            aria-label="Name the fault"
            onSubmit={(e) => {
              e.preventDefault();
              setEnded(debrief(opened, acts, readings, named));
            }}
            sx={{ display: 'grid', gap: 1.5, mt: 3 }}
          >
            <TextField
              select
              size="medium"
              label="It is"
              value={named}
              disabled={ended !== null}
              onChange={(e) => setNamed(e.target.value)}
            >
              {names.map((e) => (
                <MenuItem key={e.id} value={e.id} sx={{ minHeight: 48, whiteSpace: 'normal' }}>
                  {faultWords[e.kind].says(e.of)}
                </MenuItem>
              ))}
            </TextField>
            <Button type="submit" sx={gloved} disabled={ended !== null}>
              Name it
            </Button>
          </Box>
          {ended && (
            <Debriefing
              debrief={ended}
              rig={rig}
              next={exercise.number < last ? exercise.number + 1 : null}
              isOff={isOff}
            />
          )}
        </Box>
      </Box>
    </>
  );
}

function displayText(shown: Shown, dial: MeterRange): string {
  switch (shown.kind) {
    case 'jumps':
      return `${shownText(shown.between[0], dial)} … ${shownText(shown.between[1], dial)}`;
    case 'nothing':
      return shownText(0, dial);
    case 'reads':
      return shown.observation.shows === null ? 'OL' : shownText(shown.observation.shows, dial);
  }
}
