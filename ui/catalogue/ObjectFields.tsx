'use client';

import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { NumberField } from '../shared/NumberField';

/** Words that a field may hold, where there are few. */
const choices: Readonly<Record<string, readonly (string | number)[]>> = {
  baud: [1200, 2400, 4800, 9600, 19200, 38400, 57600, 115200],
  dataBits: [7, 8],
  parity: ['none', 'even', 'odd'],
  stopBits: [1, 2],
  termination: ['none', 'switched', 'fixed'],
  in: ['sensor', 'logger'],
  wires: [2, 3, 4],
  gives: ['contact', 'open-collector', 'logic'],
  sensing: ['to-ground', 'to-excitation'],
  fn: [3, 4],
  type: ['int16', 'uint16', 'int32', 'uint32', 'float32'],
  wordOrder: ['high-first', 'low-first'],
};
const labels: Readonly<Record<string, string>> = {
  idSetBy: 'How its ID is set',
  unitLoad: 'Unit load',
  longest: 'Longest measurement, s',
  system: 'Name of the chain bus',
  countsAs: 'Counts as sensors',
  addresses: 'Addresses, by commas',
  logic: 'Logic, V',
  pullUp: 'Pull-up, Ω',
  low: 'At the lower end, V',
  high: 'At the upper end, V',
  sourceResistance: 'Source resistance, Ω',
  differential: 'both leads carry signal',
  loopPowered: 'fed by its loop',
  least: 'Least across it, V',
  mostExcitation: 'Most excitation, V',
  sensitivity: 'Sensitivity, mV/V',
  at0: 'Ω at 0 °C',
  at25: 'Ω at 25 °C',
  beta: 'Beta, K',
  mostHz: 'Most pulses a second',
  perPulse: 'One pulse is',
  ohms: 'Ω',
  fixed: 'Fixed resistor, Ω',
  fn: 'Function',
  dataBits: 'Data bits',
  stopBits: 'Stop bits',
  baud: 'Speed',
  wordOrder: 'Word order',
  missing: 'No-value marks, by commas',
  by: 'Divisor',
  coefficients: 'Coefficients, by commas',
  over: 'Over',
  x: 'x, by commas',
  y: 'y, by commas',
};
const label = (key: string) => labels[key] ?? key[0]!.toUpperCase() + key.slice(1);
const mayBeEmpty = new Set(['pullUp']);

type Loose = Readonly<Record<string, unknown>>;

/** The fields of a small object, each by what it holds: a number, a word of few, yes or no, a pair, a list. */
export function ObjectFields<T extends object>({
  value,
  skip = ['kind', 'step'],
  onChange,
}: {
  value: T;
  skip?: readonly string[];
  onChange: (value: T) => void;
}) {
  const set = (key: string, to: unknown) => onChange({ ...value, [key]: to });
  return Object.entries(value as Loose)
    .filter(([key]) => !skip.includes(key))
    .map(([key, held]) => {
      const few = choices[key];
      if (few && !Array.isArray(held) && typeof held !== 'object')
        return (
          <TextField
            key={key}
            select
            label={label(key)}
            value={held as string}
            helperText=" "
            onChange={(e) =>
              set(
                key,
                few.find((x) => String(x) === String(e.target.value)),
              )
            }
          >
            {few.map((x) => (
              <MenuItem key={x} value={x}>
                {x}
              </MenuItem>
            ))}
          </TextField>
        );
      if (typeof held === 'boolean')
        return (
          <FormControlLabel
            key={key}
            control={<Checkbox checked={held} onChange={(e) => set(key, e.target.checked)} />}
            label={label(key)}
          />
        );
      if (typeof held === 'number' || (held === null && mayBeEmpty.has(key)))
        return (
          <NumberField
            key={key}
            label={label(key)}
            value={held}
            empty={mayBeEmpty.has(key)}
            onChange={(n) => set(key, n)}
          />
        );
      if (Array.isArray(held))
        return (
          <ListField key={key} label={label(key)} value={held as number[]} onChange={(l) => set(key, l)} />
        );
      if (typeof held === 'object' && held !== null)
        return <ObjectFields key={key} value={held} skip={[]} onChange={(o) => set(key, o)} />;
      return (
        <TextField
          key={key}
          label={label(key)}
          value={String(held)}
          helperText=" "
          onChange={(e) => set(key, e.target.value)}
        />
      );
    });
}

function ListField({
  label: name,
  value,
  onChange,
}: {
  label: string;
  value: readonly number[];
  onChange: (value: number[]) => void;
}) {
  return (
    <TextField
      label={name}
      defaultValue={value.join(', ')}
      helperText="numbers, by commas"
      onChange={(e) => {
        const read = e.target.value
          .split(/[,;]\s*/)
          .filter((t) => t.trim() !== '')
          .map(Number);
        if (read.every(Number.isFinite)) onChange(read);
      }}
    />
  );
}
