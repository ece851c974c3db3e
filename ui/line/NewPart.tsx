'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ChangePart } from '@/contract/busRequests';
import type { BusWriteView, ConsoleView, PartView } from '@/contract/busViews';
import { newId, send } from '../shared/api';
import { NumberField } from '../shared/NumberField';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';
import { Answer } from './Talk';

type Device = ConsoleView['lines'][number]['devices'][number];

/** A part of a sensor that was replaced: its coefficients from its label, told over the line. */
export function NewPart({
  base,
  devices,
  onChanged,
}: {
  base: string;
  devices: readonly Device[];
  onChanged: () => Promise<void>;
}) {
  const with_ = devices.filter((d): d is Device & { part: PartView } => d.part !== null);
  const [chosen, setChosen] = useState(with_[0]?.installationId ?? '');
  const device = with_.find((d) => d.installationId === chosen);
  if (!device) return null;
  return (
    <Box component="section" aria-label="New part of a sensor">
      <Typography variant="h3">New {device.part.name}</Typography>
      {with_.length > 1 && (
        <TextField
          select
          label="Of"
          value={chosen}
          sx={{ width: 200, mt: 1.25 }}
          onChange={(e) => setChosen(e.target.value)}
        >
          {with_.map((d) => (
            <MenuItem key={d.installationId} value={d.installationId}>
              {d.serial}, ID {d.busId}
            </MenuItem>
          ))}
        </TextField>
      )}
      <PartForm key={chosen} base={base} device={device} onChanged={onChanged} />
    </Box>
  );
}

function PartForm({
  base,
  device: { serial: sensor, installationId, part },
  onChanged,
}: {
  base: string;
  device: Device & { part: PartView };
  onChanged: () => Promise<void>;
}) {
  const { zone } = useStationBasics();
  const { last } = part;
  const [serial, setSerial] = useState('');
  const [typed, setTyped] = useState<readonly (number | null)[]>(part.coefficients.map(() => null));
  // Fields show anew what was filled in for them.
  const [filled, setFilled] = useState(0);
  const tell = useMutation({
    mutationFn: () =>
      send<BusWriteView>('POST', `${base}/change-part`, {
        actionId: newId(),
        installationId,
        serial,
        coefficients: typed.map((t) => t!),
      } satisfies ChangePart),
    onSuccess: onChanged,
  });
  return (
    <>
      <Typography variant="body2" color="text.secondary">
        {last
          ? `${sensor} has ${part.name} ${last.serial} since ${timeText(last.at, zone)}.`
          : `Nobody said which ${part.name} ${sensor} has.`}{' '}
        What it holds is read first and kept; it has to be checked with the new one.
      </Typography>
      <Box
        key={filled}
        sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'flex-start', mt: 1.25 }}
      >
        <TextField
          label="Its serial number"
          value={serial}
          sx={{ width: 190 }}
          onChange={(e) => setSerial(e.target.value)}
        />
        {part.coefficients.map((c, i) => (
          <Box key={c.name} sx={{ width: 130 }}>
            <NumberField
              label={c.name}
              value={typed[i] ?? null}
              low={c.low}
              high={c.high}
              help={`${c.low} to ${c.high}`}
              onChange={(n) => setTyped(typed.map((t, k) => (k === i ? n : t)))}
            />
          </Box>
        ))}
        <Button
          variant="outlined"
          sx={gloved}
          disabled={tell.isPending || serial.trim() === '' || typed.includes(null)}
          onClick={() => tell.mutate()}
        >
          {tell.isPending ? 'Writing …' : 'Write and read back'}
        </Button>
        {last?.previous && (
          <Button
            sx={gloved}
            onClick={() => {
              setTyped(last.previous!);
              setFilled(filled + 1);
            }}
          >
            Fill in those before
          </Button>
        )}
      </Box>
      {last && (
        <Typography variant="body2">
          Told last: {part.coefficients.map((c, i) => `${c.name} ${last.coefficients[i]}`).join(', ')}
          {last.previous &&
            `; before: ${part.coefficients.map((c, i) => `${c.name} ${last.previous![i]}`).join(', ')}`}
          .
        </Typography>
      )}
      <ProblemNote error={tell.error} />
      {tell.data && <Answer answer={tell.data} />}
    </>
  );
}
