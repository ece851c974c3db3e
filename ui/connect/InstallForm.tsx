'use client';

import Alert from '@mui/material/Alert';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import MenuItem from '@mui/material/MenuItem';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { PlaceSensor } from '@/contract/requests';
import type { ConnectView, InstallationView } from '@/contract/views';
import { serialText, type SerialSettings } from '@/core/bus/serial';
import { copperResistance, judgeSupply, supplyAtSensor } from '@/core/power/supply';
import { formatValue } from '@/core/quantity/format';
import { newId, Refusal, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { SerialFields } from '../shared/SerialFields';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';

/**
 * Puts a transmitter on a port: a free ID, equal parameters, enough supply, each lead on its terminal. In the
 * place of another it takes over that one's zone, channels and, unless it is set otherwise, ID and cable.
 */
export function InstallForm({
  view,
  replaces = null,
  onInstalled,
}: {
  view: ConnectView;
  replaces?: InstallationView | null;
  onInstalled: () => void | Promise<void>;
}) {
  const port = replaces ? view.ports.find((p) => p.name === replaces.portName) : view.ports[0];
  // Mostly it is one more of what hangs here already.
  const alike = replaces ?? view.installations[0];
  const [profileCode, setProfileCode] = useState(
    () => view.models.find((m) => m.code === alike?.profileCode)?.code ?? view.models[0]!.code,
  );
  const [reason, setReason] = useState('');
  const [serial, setSerial] = useState('');
  const [busId, setBusId] = useState(String(replaces?.busId ?? port?.proposedId ?? ''));
  const [zoneName, setZoneName] = useState('');
  const [length, setLength] = useState(String(replaces?.cableLength ?? 10));
  const [gauge, setGauge] = useState(
    () =>
      Object.keys(copperResistance).find(
        (awg) => copperResistance[Number(awg)] === replaces?.cableResistance,
      ) ?? '24',
  );
  const model = view.models.find((m) => m.code === profileCode)!;
  const [serialSettings, setSerialSettings] = useState<SerialSettings>(model.serial);
  const [landed, setLanded] = useState<string[]>([]);
  const install = useMutation({
    mutationFn: () => {
      const placed: PlaceSensor = {
        installationId: newId(),
        profileCode,
        serial,
        busId: Number(busId),
        serialSettings,
        cableLength: Number(length),
        cableResistance: copperResistance[Number(gauge)]!,
        landedLeads: landed,
        occurredAt: nowText(),
      };
      const at = `/api/v1/stations/${view.stationId}`;
      return replaces
        ? send('POST', `${at}/installations/${replaces.id}/swap`, { ...placed, reason })
        : send('POST', `${at}/transmitters`, { ...placed, portId: port!.id, zoneName });
    },
    onSuccess: onInstalled,
  });
  if (!port) return <Alert severity="info">This station has no port.</Alert>;
  const wrong = install.error instanceof Refusal ? (install.error.problem.field ?? '') : '';
  const landings = port.landings[profileCode] ?? [];
  return (
    <Box
      component="form"
      noValidate
      sx={{ border: 1, borderColor: 'divider', p: 2, mb: 2, bgcolor: 'background.paper' }}
      onSubmit={(e) => {
        e.preventDefault();
        install.mutate();
      }}
    >
      <Typography variant="h2" sx={{ mb: 2 }}>
        {replaces ? `In the place of ${replaces.sensorSerial}` : 'A transmitter'} on {port.name} (
        {serialText(port.serial)}, {formatValue(port.supply, 1)} V)
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(auto-fit, minmax(210px, 1fr))', gap: 2 }}>
        <TextField
          select
          label="Model"
          value={profileCode}
          onChange={(e) => {
            setProfileCode(e.target.value);
            setSerialSettings(view.models.find((m) => m.code === e.target.value)!.serial);
            setLanded([]);
          }}
          helperText={model.outputs.join(', ')}
        >
          {view.models.map((m) => (
            <MenuItem key={m.code} value={m.code}>
              {m.name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label="Serial number"
          value={serial}
          onChange={(e) => setSerial(e.target.value)}
          error={wrong === 'serial'}
          helperText="on the sensor's label"
        />
        <TextField
          label="ID on the bus"
          value={busId}
          onChange={(e) => setBusId(e.target.value)}
          error={wrong === 'busId'}
          slotProps={{ htmlInput: { inputMode: 'numeric' } }}
          helperText={`${port.proposedId ?? 'none'} is free; in use: ${port.taken.map((t) => t.id).join(', ') || 'none'}. Set by ${model.idSetBy}.`}
        />
        {replaces ? (
          <TextField
            label="Why it is swapped"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            error={wrong === 'reason'}
            helperText={`in ${replaces.zoneName}; its channels go on`}
          />
        ) : (
          <TextField
            label="Zone"
            value={zoneName}
            onChange={(e) => setZoneName(e.target.value)}
            error={wrong === 'zoneName'}
            helperText="where the sensor hangs"
          />
        )}
        <SerialFields value={serialSettings} onChange={setSerialSettings} wrong={wrong} />
        <TextField
          label="Cable, m one way"
          value={length}
          onChange={(e) => setLength(e.target.value)}
          error={wrong === 'cableLength' || wrong === 'supply'}
          slotProps={{ htmlInput: { inputMode: 'decimal' } }}
        />
        <TextField
          select
          label="Conductor"
          value={gauge}
          onChange={(e) => setGauge(e.target.value)}
          helperText={`${copperResistance[Number(gauge)]} Ω/km at 20 °C`}
        >
          {Object.keys(copperResistance).map((awg) => (
            <MenuItem key={awg} value={awg}>
              AWG {awg}
            </MenuItem>
          ))}
        </TextField>
      </Box>
      <SupplySum
        supply={port.supply}
        current={model.current}
        length={Number(length)}
        gauge={Number(gauge)}
        low={model.supply.low}
        high={model.supply.high}
      />
      {model.cautions.length > 0 && (
        <Alert severity="warning" variant="outlined" sx={{ mb: 2, color: 'text.primary' }}>
          {model.cautions.join(' ')} Local codes and licensed practice come first.
        </Alert>
      )}
      <Typography variant="h3">
        Leads: photograph the terminals before and after, then tick each lead as it lands
      </Typography>
      <Box sx={{ overflowX: 'auto' }}>
        <Table size="small" sx={{ my: 1, maxWidth: 760 }}>
          <TableHead>
            <TableRow>
              <TableCell>On its terminal</TableCell>
              <TableCell>Lead</TableCell>
              <TableCell>Signal</TableCell>
              <TableCell>Terminal</TableCell>
              <TableCell>Mind</TableCell>
            </TableRow>
          </TableHead>
          <TableBody>
            {landings.map((l) => (
              <TableRow key={l.colour}>
                <TableCell>
                  <Checkbox
                    disabled={!l.terminal}
                    checked={landed.includes(l.colour)}
                    slotProps={{
                      input: { 'aria-label': `${l.colour} is on ${l.terminal?.label ?? 'no terminal'}` },
                    }}
                    onChange={(e) =>
                      setLanded((before) =>
                        e.target.checked ? [...before, l.colour] : before.filter((c) => c !== l.colour),
                      )
                    }
                    sx={{ width: 48, height: 48 }}
                  />
                </TableCell>
                <TableCell sx={{ fontWeight: 600 }}>{l.colour}</TableCell>
                <TableCell>{l.signal}</TableCell>
                <TableCell sx={{ fontWeight: 600 }}>{l.terminal?.label ?? 'no terminal for it'}</TableCell>
                <TableCell sx={{ color: 'text.secondary' }}>{l.mind}</TableCell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Box>
      <ProblemNote error={install.error} />
      <Button type="submit" variant="contained" sx={gloved} disabled={install.isPending}>
        {replaces ? `Swap it for ${replaces.sensorSerial}` : 'Connect it'}
      </Button>
    </Box>
  );
}

function SupplySum(p: {
  supply: number;
  current: number;
  length: number;
  gauge: number;
  low: number;
  high: number;
}) {
  const resistance = copperResistance[p.gauge]!;
  if (!Number.isFinite(p.length) || p.length < 0) return null;
  const { drop, atSensor } = supplyAtSensor({
    supply: p.supply,
    current: p.current,
    length: p.length,
    resistance,
  });
  const verdict = judgeSupply(atSensor, p.low, p.high);
  return (
    <Typography sx={{ my: 2 }}>
      Supply:{' '}
      <Sum>
        {formatValue(p.supply, 2)} V − {p.current} A × 2 × {p.length} m × {resistance} Ω/km ={' '}
        {formatValue(p.supply, 2)} − {formatValue(drop, 2)} = {formatValue(atSensor, 2)} V
      </Sum>{' '}
      <b>
        {verdict === 'in-range'
          ? `reaches the sensor, which takes ${p.low}–${p.high} V`
          : `${verdict === 'too-low' ? 'too little' : 'too much'}: the sensor takes ${p.low}–${p.high} V`}
      </b>
    </Typography>
  );
}
