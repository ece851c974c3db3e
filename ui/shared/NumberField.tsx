'use client';

import TextField from '@mui/material/TextField';
import { useState } from 'react';

/** A number that may be left out; what is no number stays as it is typed, marked, and is not taken over. */
export function NumberField({
  label,
  value,
  onChange,
  low = -Infinity,
  high = Infinity,
  empty = true,
  help,
  large = false,
}: {
  label: string;
  value: number | null;
  onChange: (value: number | null) => void;
  low?: number;
  high?: number;
  /** Whether it may be left out. */
  empty?: boolean;
  help?: string;
  /** For gloves. */
  large?: boolean;
}) {
  const [typed, setTyped] = useState<string | null>(null);
  const text = typed ?? (value === null ? '' : String(value));
  const read = (of: string): number | null | undefined => {
    const plain = of.trim().replace(',', '.').replace('−', '-');
    if (plain === '') return empty ? null : undefined;
    const n = Number(plain);
    return Number.isFinite(n) && n >= low && n <= high ? n : undefined;
  };
  const wrong = read(text) === undefined;
  const range =
    low === -Infinity ? `at most ${high}` : high === Infinity ? `${low} or more` : `${low} to ${high}`;
  return (
    <TextField
      label={label}
      {...(large && { size: 'medium' as const })}
      value={text}
      error={wrong}
      helperText={wrong ? `A number, ${range}.` : (help ?? ' ')}
      slotProps={{ htmlInput: { inputMode: 'decimal' } }}
      onChange={(e) => {
        setTyped(e.target.value);
        const n = read(e.target.value);
        if (n !== undefined && n !== value) onChange(n);
      }}
      onBlur={() => !wrong && setTyped(null)}
    />
  );
}
