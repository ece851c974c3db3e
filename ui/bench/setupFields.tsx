'use client';

import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import type { BenchSensorView, MeterView } from '@/contract/bench';
import type { PathInput } from '@/core/circuit/pathInput';
import { MeterField } from './MeterField';

/** Which meter, and what the logger's input brings that its description does not say. */
export function SetupFields({
  sensor,
  meters,
  meterId,
  onMeter,
  input,
  onInput,
}: {
  sensor: BenchSensorView;
  meters: readonly MeterView[];
  meterId: string;
  onMeter: (id: string) => void;
  input: PathInput;
  onInput: (input: PathInput) => void;
}) {
  const { connection } = sensor.profile;
  const number = (label: string, key: 'shunt' | 'volts' | 'excitation', unit: string) => (
    <TextField
      size="medium"
      type="number"
      label={`${label}, ${unit}`}
      value={input[key]}
      onChange={(e) => Number(e.target.value) > 0 && onInput({ ...input, [key]: Number(e.target.value) })}
      sx={{ width: 170 }}
      slotProps={{ htmlInput: { step: 'any', min: 0 } }}
    />
  );
  return (
    <>
      <MeterField meters={meters} meterId={meterId} onMeter={onMeter} />
      {connection.kind === 'prt' && connection.wires > 2 && (
        <TextField
          select
          size="medium"
          label="The input reads it as"
          value={input.wires ?? connection.wires}
          onChange={(e) => onInput({ ...input, wires: Number(e.target.value) as 2 | 3 | 4 })}
          sx={{ minWidth: 260 }}
        >
          {([2, connection.wires] as const).map((w) => (
            <MenuItem key={w} value={w} sx={{ minHeight: 48 }}>
              {w === 2 ? 'two wires: leads are measured, too' : `${w} wires: leads are taken out`}
            </MenuItem>
          ))}
        </TextField>
      )}
      {connection.kind === 'current' && (
        <>
          {number('Shunt', 'shunt', 'Ω')}
          {number('Supply', 'volts', 'V')}
        </>
      )}
      {['half-bridge', 'full-bridge', 'potentiometer'].includes(connection.kind) &&
        number('Excitation', 'excitation', 'V')}
    </>
  );
}
