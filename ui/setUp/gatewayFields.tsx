'use client';

import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { SetUpView } from '@/contract/planViews';
import { serialText, type SerialSettings } from '@/core/bus/serial';

/** What loggers and sensors are usually set to; what a line has beside these is offered too. */
export const usualLines: readonly SerialSettings[] = [
  { baud: 19_200, dataBits: 8, parity: 'even', stopBits: 1 },
  { baud: 9600, dataBits: 8, parity: 'none', stopBits: 1 },
  { baud: 9600, dataBits: 8, parity: 'even', stopBits: 1 },
  { baud: 19_200, dataBits: 8, parity: 'none', stopBits: 1 },
  { baud: 38_400, dataBits: 8, parity: 'none', stopBits: 1 },
  { baud: 115_200, dataBits: 8, parity: 'none', stopBits: 1 },
];

/** Which gateway carries a line; one that nobody described may be any. */
export function GatewayModel({
  line,
  gateways,
  value,
  onChange,
}: {
  line: string;
  gateways: SetUpView['gateways'];
  value: string | null;
  onChange: (code: string | null) => void;
}) {
  return (
    <TextField
      select
      label={`Model at ${line}`}
      value={value ?? ''}
      slotProps={{ select: { displayEmpty: true }, inputLabel: { shrink: true } }}
      helperText="its profile says how it frames"
      onChange={(e) => onChange(e.target.value || null)}
    >
      <MenuItem value="">not described</MenuItem>
      {gateways.map((g) => (
        <MenuItem key={g.code} value={g.code}>
          {g.name}
        </MenuItem>
      ))}
    </TextField>
  );
}

/** Serial settings that all on a line share. */
export function SerialSettingsField({
  line,
  value,
  onChange,
}: {
  line: string;
  value: SerialSettings;
  onChange: (to: SerialSettings) => void;
}) {
  const offered = usualLines.some((l) => serialText(l) === serialText(value))
    ? usualLines
    : [value, ...usualLines];
  return (
    <TextField
      select
      label={`Settings of ${line}`}
      value={serialText(value)}
      helperText="the same at the sensors"
      onChange={(e) => onChange(offered.find((l) => serialText(l) === e.target.value)!)}
    >
      {offered.map((l) => (
        <MenuItem key={serialText(l)} value={serialText(l)}>
          {serialText(l)}
        </MenuItem>
      ))}
    </TextField>
  );
}
