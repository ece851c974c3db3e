'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { disturbances, type Disturbance } from '@/core/device/profile';
import type { PlannedDevice } from '@/core/plan/plan';
import { NumberField } from '../shared/NumberField';
import { fieldGrid } from '../shared/theme';

/** What stands near a sensor and disturbs it, each with its distance; the rules compare them with its profile. */
export function Disturbances({
  near,
  onChange,
}: {
  near: PlannedDevice['near'];
  onChange: (near: PlannedDevice['near']) => void;
}) {
  const free = disturbances.filter((x) => !near.some((n) => n.of === x));
  const change = (at: number, to: Partial<PlannedDevice['near'][number]>) =>
    onChange(near.map((n, i) => (i === at ? { ...n, ...to } : n)));
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {near.map((n, i) => (
        <Box key={n.of} sx={fieldGrid(120)}>
          <TextField
            select
            label="Near it"
            value={n.of}
            helperText=" "
            onChange={(e) => change(i, { of: e.target.value as Disturbance })}
          >
            {disturbances
              .filter((x) => x === n.of || free.includes(x))
              .map((x) => (
                <MenuItem key={x} value={x}>
                  {x}
                </MenuItem>
              ))}
          </TextField>
          <NumberField
            label={`Distance of ${n.of}, m`}
            value={n.metres}
            low={0}
            high={1000}
            empty={false}
            onChange={(metres) => change(i, { metres: metres ?? 0 })}
          />
          <Box>
            <Button size="small" onClick={() => onChange(near.filter((_, at) => at !== i))}>
              Leave out
            </Button>
          </Box>
        </Box>
      ))}
      {free.length > 0 && (
        <Box>
          <Button size="small" onClick={() => onChange([...near, { of: free[0]!, metres: 1 }])}>
            Add what disturbs it
          </Button>
        </Box>
      )}
    </Box>
  );
}
