'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { DeviceUse, PlanContext } from '@/core/plan/context';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { nowText } from '../shared/deviceClock';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useStationBasics } from '../station/StationBasics';

/**
 * A planned sensor in the hand: its serial number, and every lead ticked as it is screwed down. One that
 * landed elsewhere is said so, with the reason.
 */
export function InstallPlanned({
  stationId,
  revision,
  use,
  context,
  onInstalled,
}: {
  stationId: string;
  revision: number;
  use: DeviceUse;
  context: PlanContext;
  onInstalled: () => Promise<unknown>;
}) {
  const [serial, setSerial] = useState(use.plan.serial ?? '');
  const [ticked, setTicked] = useState<readonly string[]>([]);
  const [elsewhere, setElsewhere] = useState<Readonly<Record<string, string>>>({});
  const [mounted, setMounted] = useState<readonly string[]>([]);
  const [deviation, setDeviation] = useState('');
  const leads = use.leads.filter((l) => l.signal !== 'spare' && l.terminal);
  const at = (colour: string, planned: string) => elsewhere[colour] ?? planned;
  const deviates = leads.some((l) => at(l.colour, l.terminal!.terminal.label) !== l.terminal!.terminal.label);
  const { code, zone } = useStationBasics();
  const install = useFieldWrite<'sensorConnected'>(() => onInstalled().then(() => undefined));
  const connect = () =>
    install.mutate({
      kind: 'sensorConnected',
      stationId,
      where: `${code} ${use.plan.name}`,
      zone,
      body: {
        deviceId: use.plan.id,
        revision,
        serial,
        landed: leads
          .filter((l) => ticked.includes(l.colour))
          .map((l) => ({ colour: l.colour, terminal: at(l.colour, l.terminal!.terminal.label) })),
        mounted: [...mounted],
        deviation,
        occurredAt: nowText(),
      },
    });
  return (
    <Box
      component="form"
      noValidate
      aria-label={`Connect ${use.plan.name}`}
      onSubmit={(e) => {
        e.preventDefault();
        connect();
      }}
      sx={{ border: 1, borderColor: 'divider', bgcolor: 'background.paper', p: 1.5, display: 'grid', gap: 1 }}
    >
      <Typography variant="h2">Connect it</Typography>
      <TextField
        label="Serial number"
        value={serial}
        onChange={(e) => setSerial(e.target.value)}
        helperText="on the sensor's label"
      />
      {leads.map((l) => {
        const planned = l.terminal!.terminal.label;
        return (
          <Box key={l.colour} sx={{ display: 'flex', alignItems: 'center', gap: 1, minHeight: 48 }}>
            <FormControlLabel
              sx={{ flexGrow: 1 }}
              control={
                <Checkbox
                  checked={ticked.includes(l.colour)}
                  onChange={(e) =>
                    setTicked(e.target.checked ? [...ticked, l.colour] : ticked.filter((c) => c !== l.colour))
                  }
                />
              }
              label={`${l.colour} (${l.signal}) on`}
            />
            <TextField
              select
              label={`Terminal of ${l.colour}`}
              value={at(l.colour, planned)}
              sx={{ minWidth: 120 }}
              onChange={(e) => setElsewhere({ ...elsewhere, [l.colour]: e.target.value })}
            >
              {[...context.terminals.keys()].map((t) => (
                <MenuItem key={t} value={t}>
                  {t}
                </MenuItem>
              ))}
            </TextField>
          </Box>
        );
      })}
      {use.sensor && use.sensor.mounting.length > 0 && (
        <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
          <Typography component="legend" variant="h3">
            Mounted
          </Typography>
          {use.sensor.mounting.map((step) => (
            <FormControlLabel
              key={step}
              sx={{ display: 'flex', minHeight: 48 }}
              control={
                <Checkbox
                  checked={mounted.includes(step)}
                  onChange={(e) =>
                    setMounted(e.target.checked ? [...mounted, step] : mounted.filter((m) => m !== step))
                  }
                />
              }
              label={step}
            />
          ))}
        </Box>
      )}
      {deviates && (
        <TextField
          label="Why not as planned"
          value={deviation}
          onChange={(e) => setDeviation(e.target.value)}
          helperText="kept, and shown on the signal path"
        />
      )}
      {install.data?.kept && (
        <Typography role="status">Kept on this device; it is connected once it is sent.</Typography>
      )}
      <ProblemNote error={install.error} />
      <Box>
        <Button
          type="submit"
          variant="contained"
          sx={gloved}
          disabled={install.isPending || install.data?.kept || !serial.trim()}
        >
          {install.isPending ? 'Connecting …' : 'Connect'}
        </Button>{' '}
        <Typography component="span" variant="body2" color="text.secondary">
          {ticked.length} of {leads.length} leads, {mounted.length} of {use.sensor?.mounting.length ?? 0}{' '}
          steps ticked
        </Typography>
      </Box>
    </Box>
  );
}
