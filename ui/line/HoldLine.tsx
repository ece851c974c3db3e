'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import Radio from '@mui/material/Radio';
import RadioGroup from '@mui/material/RadioGroup';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { BeginLineSession, EndLineSession } from '@/contract/busRequests';
import type { LineSessionView } from '@/contract/busViews';
import { Age } from '../shared/Age';
import { newId, send } from '../shared/api';
import { NumberField } from '../shared/NumberField';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { SaidOutcome, type Said } from '../shared/SaidOutcome';
import { gloved } from '../shared/theme';
import { clockText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';

/** Who is master of a line: asked before anybody talks on it at length, and given back afterwards. */
export function HoldLine({
  stationId,
  portId,
  lineName,
  session,
  onChanged,
}: {
  stationId: string;
  portId: string;
  lineName: string;
  session: LineSessionView | null;
  onChanged: () => Promise<void>;
}) {
  const mayMeasure = useMay('measure');
  const { zone } = useStationBasics();
  const [master, setMaster] = useState<BeginLineSession['master']>('held');
  const [acts, setActs] = useState<'nothing' | 'in-hand' | null>(null);
  const [minutes, setMinutes] = useState<number | null>(30);
  const [givenBack, setGivenBack] = useState(false);
  const base = `/api/v1/stations/${stationId}/line-sessions`;
  const begin = useMutation({
    mutationFn: () =>
      send<Said>('POST', base, {
        sessionId: newId(),
        actionId: newId(),
        portId,
        master,
        outputsInHand: acts === 'in-hand',
        minutes: minutes ?? 30,
      } satisfies BeginLineSession),
    onSuccess: onChanged,
  });
  const end = useMutation({
    mutationFn: (id: string) =>
      send<Said>('POST', `${base}/${id}/end`, { actionId: newId(), givenBack } satisfies EndLineSession),
    onSuccess: async () => {
      setGivenBack(false);
      await onChanged();
    },
  });
  const failed = [begin.data, end.data].find((d) => d && d.state !== 'done');
  const notes = (
    <>
      <SaidOutcome said={failed} />
      <ProblemNote error={begin.error ?? end.error} />
    </>
  );
  if (session && !session.over) {
    const back = [
      session.master === 'lifted' && 'the pair of the logger is back on',
      session.outputsInHand && 'outputs that were in hand are given back',
    ].filter(Boolean);
    return (
      <Box sx={{ borderLeft: 4, borderColor: 'warning.main', pl: 2, py: 0.5, my: 1 }}>
        <Typography>
          <b>{lineName} is held</b> by {session.initials}, <Age at={session.begunAt} />
          {session.master === 'held'
            ? `; the logger polls again by itself at ${clockText(session.untilAt, zone)}`
            : '; the pair of the logger is lifted'}
          . What its sensors record meanwhile is marked as off-line.
        </Typography>
        {mayMeasure && (
          <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'center', mt: 0.5 }}>
            {back.length > 0 && (
              <FormControlLabel
                control={<Checkbox checked={givenBack} onChange={(e) => setGivenBack(e.target.checked)} />}
                label={`Seen: ${back.join('; ')}`}
              />
            )}
            <Button
              variant="outlined"
              sx={gloved}
              disabled={end.isPending || (back.length > 0 && !givenBack)}
              onClick={() => end.mutate(session.id)}
            >
              Give the line back
            </Button>
          </Box>
        )}
        {notes}
      </Box>
    );
  }
  if (!mayMeasure) return null;
  return (
    <Box sx={{ borderLeft: 4, borderColor: 'divider', pl: 2, py: 0.5, my: 1 }}>
      <Typography>
        <b>The logger polls {lineName}.</b> Two who ask on one line garble each other: before anybody scans or
        writes there, one of them has to be quiet.
      </Typography>
      <RadioGroup value={master} onChange={(e) => setMaster(e.target.value as typeof master)}>
        <FormControlLabel
          value="held"
          control={<Radio />}
          label="The logger holds its polling for a while, and goes on by itself"
        />
        <FormControlLabel
          value="lifted"
          control={<Radio />}
          label="I have lifted the logger’s own leads from the line"
        />
      </RadioGroup>
      <Typography sx={{ mt: 0.5 }}>
        Meanwhile the logger has no value for any sensor of this line. A controller that acts on one may heat,
        ventilate or open.
      </Typography>
      <RadioGroup
        row
        aria-label="What acts on these sensors"
        value={acts}
        onChange={(e) => setActs(e.target.value as 'nothing')}
      >
        <FormControlLabel value="nothing" control={<Radio />} label="Nothing acts on them" />
        <FormControlLabel value="in-hand" control={<Radio />} label="Its outputs are in hand" />
      </RadioGroup>
      <Box sx={{ display: 'flex', gap: 2, alignItems: 'flex-start', mt: 0.5 }}>
        <Box sx={{ width: 170 }}>
          <NumberField
            label="At most, min"
            value={minutes}
            low={1}
            high={120}
            empty={false}
            onChange={setMinutes}
          />
        </Box>
        <Button
          variant="contained"
          sx={gloved}
          disabled={begin.isPending || acts === null || minutes === null}
          onClick={() => begin.mutate()}
        >
          Hold the line
        </Button>
      </Box>
      {notes}
    </Box>
  );
}
