'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { SayLabel } from '@/contract/requests';
import type { LoggerLabelView } from '@/contract/views';
import { newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';

const logIns: Readonly<Record<SayLabel['logIn'], string>> = {
  none: 'It has none',
  factory: 'Still the factory’s',
  changed: 'Changed',
};

/** What stands on the logger's label, where it is registered, and how its log-in stands. No password is kept. */
export function LoggerLabel({
  stationId,
  label,
  onChanged,
}: {
  stationId: string;
  label: LoggerLabelView;
  onChanged: () => Promise<void>;
}) {
  const { zone } = useStationBasics();
  const mayMeasure = useMay('measure');
  const [editing, setEditing] = useState(false);
  const [code, setCode] = useState(label.registrationCode);
  const [where, setWhere] = useState(label.registeredAt);
  const [logIn, setLogIn] = useState<SayLabel['logIn'] | ''>(label.logIn ?? '');
  const say = useMutation({
    mutationFn: (how: SayLabel['logIn']) =>
      send('POST', `/api/v1/stations/${stationId}/logger/label`, {
        labelId: newId(),
        registrationCode: code.trim(),
        registeredAt: where.trim(),
        logIn: how,
      } satisfies SayLabel),
    onSuccess: async () => {
      setEditing(false);
      await onChanged();
    },
  });
  return (
    <Box component="section" aria-label="Label of the logger" sx={{ mt: 3, display: 'grid', gap: 0.75 }}>
      <Typography variant="h2">Label and log-in</Typography>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <StateMark
          state={label.logIn === null ? 'missing' : label.logIn === 'factory' ? 'displaced' : 'sound'}
        />
        <Typography>
          Serial number <b>{label.serial}</b>
          {label.registrationCode && `, registration code ${label.registrationCode}`}
          {label.logIn !== null &&
            (label.registeredAt ? `, registered at ${label.registeredAt}` : ', registered nowhere')}
          {label.logIn === null
            ? '. Nobody said what else stands on its label, and whether its log-in is still the factory’s.'
            : label.logIn === 'factory'
              ? '. Its log-in is still the factory’s: whoever knows the model can get in. Change it at the logger, then say so here.'
              : label.logIn === 'changed'
                ? '. Its log-in was changed.'
                : '. It has no log-in.'}
        </Typography>
      </Box>
      {label.firmware && (
        <Typography variant="body2">
          Firmware {label.firmware.version}, noted {timeText(label.firmware.notedAt, zone)}
          {label.firmware.faults.map((f) => ` · known to be bad: ${f}`).join('')}
        </Typography>
      )}
      {mayMeasure && !editing && (
        <Box>
          <Button sx={gloved} onClick={() => setEditing(true)}>
            {label.logIn === null ? 'Say what stands on its label' : 'Correct it'}
          </Button>
        </Box>
      )}
      {editing && (
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
          <TextField label="Registration code" value={code} onChange={(e) => setCode(e.target.value)} />
          <TextField
            label="Registered at"
            value={where}
            helperText="Empty for nowhere"
            onChange={(e) => setWhere(e.target.value)}
          />
          <TextField
            select
            label="Its log-in"
            value={logIn}
            sx={{ minWidth: 200 }}
            helperText="No password is kept here"
            onChange={(e) => setLogIn(e.target.value as SayLabel['logIn'])}
          >
            {(Object.keys(logIns) as SayLabel['logIn'][]).map((l) => (
              <MenuItem key={l} value={l}>
                {logIns[l]}
              </MenuItem>
            ))}
          </TextField>
          <Button
            variant="contained"
            sx={gloved}
            disabled={logIn === '' || say.isPending}
            onClick={() => logIn !== '' && say.mutate(logIn)}
          >
            Keep it
          </Button>
          <Button sx={gloved} onClick={() => setEditing(false)}>
            Leave it
          </Button>
        </Box>
      )}
      <ProblemNote error={say.error} />
    </Box>
  );
}
