'use client';

import Box from '@mui/material/Box';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { unitsLike, type Unit } from '@/core/quantity/unit';

/** A number off a display with its unit, large enough for gloves. */
export function NumberWithUnit(p: {
  label: string;
  value: string;
  onValue: (v: string) => void;
  unit: Unit;
  onUnit: (u: Unit) => void;
  wrong: boolean;
}) {
  const units = unitsLike(p.unit);
  return (
    <Box sx={{ display: 'flex', maxWidth: '100%' }}>
      <TextField
        size="medium"
        label={p.label}
        value={p.value}
        error={p.wrong}
        onChange={(e) => p.onValue(e.target.value)}
        // Wide enough that its label can be read to the end.
        sx={{ width: Math.max(170, 40 + 8.5 * p.label.length), flexShrink: 1, minWidth: 0 }}
        autoComplete="off"
        slotProps={{ htmlInput: { inputMode: 'decimal', style: { fontSize: '1.2rem' } } }}
      />
      <TextField
        select
        size="medium"
        label="Unit"
        value={p.unit}
        onChange={(e) => p.onUnit(e.target.value as Unit)}
        sx={{ width: 96, flexShrink: 0 }}
      >
        {units.map((u) => (
          <MenuItem key={u} value={u} sx={{ minHeight: 48 }}>
            {u}
          </MenuItem>
        ))}
      </TextField>
    </Box>
  );
}
