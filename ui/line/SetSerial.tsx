'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { SetBusSerial } from '@/contract/busRequests';
import type { BusWriteView, ConsoleView } from '@/contract/busViews';
import { serialDifferences, serialText } from '@/core/bus/serial';
import { newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { SerialFields } from '../shared/SerialFields';
import { gloved } from '../shared/theme';
import { Answer } from './Talk';

/** Speed and parity of a device, by its register; set otherwise than the line, its logger hears it no more. */
export function SetSerial({ base, line }: { base: string; line: ConsoleView['lines'][number] }) {
  const settable = line.devices.filter((d) => d.management?.serialRegister != null);
  const [installationId, setInstallationId] = useState(settable[0]?.installationId ?? '');
  const [to, setTo] = useState(line.serial);
  const set = useMutation({
    mutationFn: () =>
      send<BusWriteView>('POST', `${base}/set-serial`, {
        actionId: newId(),
        installationId,
        to,
      } satisfies SetBusSerial),
  });
  if (settable.length === 0 || !line.setsSerial) return null;
  const apart = serialDifferences(to, line.serial).length > 0;
  return (
    <Box component="section" aria-label="Set speed and parity">
      <Typography variant="h3">Set speed and parity</Typography>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'flex-start', mt: 1.25 }}>
        <TextField
          select
          label="Of"
          value={installationId}
          sx={{ width: 170 }}
          onChange={(e) => setInstallationId(e.target.value)}
        >
          {settable.map((d) => (
            <MenuItem key={d.installationId} value={d.installationId}>
              {d.serial}, ID {d.busId}
            </MenuItem>
          ))}
        </TextField>
        <SerialFields value={to} onChange={setTo} wrong="" />
        <Button variant="outlined" sx={gloved} disabled={set.isPending} onClick={() => set.mutate()}>
          {set.isPending ? 'Writing …' : 'Set and read back'}
        </Button>
      </Box>
      {apart && (
        <Typography variant="body2" sx={{ color: 'warning.main' }}>
          The line has {serialText(line.serial)}: set to {serialText(to)} its logger hears it no more, until
          line and logger are set alike.
        </Typography>
      )}
      <ProblemNote error={set.error} />
      {set.data && <Answer answer={set.data} />}
    </Box>
  );
}
