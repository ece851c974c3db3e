'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { SerialSettings } from '@/core/bus/serial';

/** Speed, data bits, parity and stop bits; `wrong` names the field that was refused. */
export function SerialFields({
  value,
  onChange,
  wrong,
}: {
  value: SerialSettings;
  onChange: (s: SerialSettings) => void;
  wrong: string;
}) {
  const field = <K extends keyof SerialSettings>(
    key: K,
    label: string,
    options: readonly SerialSettings[K][],
  ) => (
    <TextField
      key={key}
      select
      label={label}
      value={String(value[key])}
      error={wrong === `serialSettings.${key}`}
      sx={{ flex: 1, minWidth: key === 'baud' ? 118 : 92 }}
      onChange={(e) => onChange({ ...value, [key]: options.find((o) => String(o) === e.target.value)! })}
    >
      {options.map((o) => (
        <MenuItem key={String(o)} value={String(o)}>
          {String(o)}
        </MenuItem>
      ))}
    </TextField>
  );
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 1, gridColumn: { xs: '1 / -1', sm: 'span 2' } }}>
      {field('baud', 'Speed', [1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200])}
      {field('dataBits', 'Data bits', [7, 8])}
      {field('parity', 'Parity', ['none', 'even', 'odd'])}
      {field('stopBits', 'Stop bits', [1, 2])}
    </Box>
  );
}
