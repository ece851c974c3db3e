'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ChangeLines } from '@/contract/planRequests';
import type { SetUpView } from '@/contract/planViews';
import { sdi12Serial } from '@/core/bus/sdi12';
import { send } from '../shared/api';
import { NumberField } from '../shared/NumberField';
import { ProblemNote } from '../shared/ProblemNote';
import { fieldGrid, openForm } from '../shared/theme';
import { GatewayModel, SerialSettingsField, usualLines } from './gatewayFields';

type Station = SetUpView['sites'][number]['stations'][number];
type Gateway = NonNullable<ChangeLines['ports'][number]['gateway']>;

/** How a station's logger is reached and fed, and what carries each of its serial lines to the network. */
export function LinesForm({
  view,
  station,
  onDone,
  onCancel,
}: {
  view: SetUpView;
  station: Station;
  onDone: () => void;
  onCancel: () => void;
}) {
  const logger = station.logger!;
  const [address, setAddress] = useState(logger.address);
  const [supply, setSupply] = useState<number | null>(logger.supplyVoltage);
  const [gateways, setGateways] = useState<readonly Gateway[]>(() =>
    station.lines.map(
      (l): Gateway =>
        l.gateway ?? {
          profile: null,
          address: '',
          ...(l.bus === 'sdi-12'
            ? { framing: 'sdi-12', serial: sdi12Serial }
            : { framing: 'rtu', serial: usualLines[0]! }),
        },
    ),
  );
  const set = (at: number, change: Partial<Gateway>) =>
    setGateways(gateways.map((g, i) => (i === at ? { ...g, ...change } : g)));
  const save = useMutation({
    mutationFn: () =>
      send('PUT', `/api/v1/stations/${station.id}/lines`, {
        address: address.trim(),
        supplyVoltage: supply ?? 0,
        ports: station.lines.map(({ portId }, i) => ({
          portId,
          gateway: gateways[i]!.address.trim()
            ? { ...gateways[i]!, address: gateways[i]!.address.trim() }
            : null,
        })),
      } satisfies ChangeLines),
    onSuccess: onDone,
  });
  return (
    <Box
      component="form"
      noValidate
      aria-label={`Logger and lines of ${station.code}`}
      sx={openForm}
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
    >
      <Typography variant="h3">
        {logger.model} {logger.serial}
      </Typography>
      <Box sx={fieldGrid(200)}>
        <TextField
          label="Address of the logger"
          value={address}
          helperText="host:port"
          onChange={(e) => setAddress(e.target.value)}
        />
        <NumberField label="Supply, V" value={supply} low={0} high={60} empty={false} onChange={setSupply} />
      </Box>
      {station.lines.map(({ portId, name, bus }, i) => (
        <Box key={portId} sx={fieldGrid(200)}>
          <TextField
            label={`${bus === 'sdi-12' ? 'Adapter' : 'Gateway'} of ${name}`}
            value={gateways[i]!.address}
            helperText="host:port; empty: none"
            onChange={(e) => set(i, { address: e.target.value })}
          />
          <GatewayModel
            line={name}
            gateways={view.gateways.filter((g) => (g.framing === 'sdi-12') === (bus === 'sdi-12'))}
            value={gateways[i]!.profile}
            onChange={(profile) =>
              set(i, {
                profile,
                framing: view.gateways.find((g) => g.code === profile)?.framing ?? gateways[i]!.framing,
              })
            }
          />
          {bus === 'modbus-rtu' && gateways[i]!.profile === null && (
            <TextField
              select
              label={`Framing on ${name}`}
              value={gateways[i]!.framing}
              helperText=" "
              onChange={(e) => set(i, { framing: e.target.value as Gateway['framing'] })}
            >
              <MenuItem value="rtu">RTU as on the line</MenuItem>
              <MenuItem value="tcp">Modbus TCP</MenuItem>
            </TextField>
          )}
          {bus === 'modbus-rtu' && (
            <SerialSettingsField
              line={name}
              value={gateways[i]!.serial}
              onChange={(serial) => set(i, { serial })}
            />
          )}
        </Box>
      ))}
      <ProblemNote error={save.error} />
      <Box sx={{ display: 'flex', gap: 1 }}>
        <Button type="submit" variant="contained" disabled={save.isPending}>
          Save
        </Button>
        <Button onClick={onCancel}>Cancel</Button>
      </Box>
    </Box>
  );
}
