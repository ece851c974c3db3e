'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { DateTime } from 'luxon';
import { useState } from 'react';
import { timeText } from '../shared/time';

const spans: readonly [string, number][] = [
  ['6 h', 6 / 24],
  ['1 d', 1],
  ['7 d', 7],
  ['30 d', 30],
  ['90 d', 90],
  ['1 y', 365.25],
];
const day = 86_400_000;

interface Props {
  /** ms since epoch */
  readonly from: number;
  readonly until: number;
  readonly zone: string;
  readonly onShow: (from: number, until: number) => void;
}

/** The window by button, by step, or typed. */
export function WindowBar({ from, until, zone, onShow }: Props) {
  const width = until - from;
  return (
    <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start', mb: 1 }}>
      {spans.map(([label, days]) => (
        <Button
          key={label}
          size="small"
          onClick={() => onShow(until - days * day, until)}
          sx={{ minHeight: 40 }}
        >
          {label}
        </Button>
      ))}
      <Button
        size="small"
        aria-label="Earlier"
        onClick={() => onShow(from - width / 2, until - width / 2)}
        sx={{ minHeight: 40 }}
      >
        ← earlier
      </Button>
      <Button
        size="small"
        aria-label="Later"
        onClick={() => onShow(from + width / 2, until + width / 2)}
        sx={{ minHeight: 40 }}
      >
        later →
      </Button>
      <WindowForm key={`${from} ${until}`} from={from} until={until} zone={zone} onShow={onShow} />
    </Box>
  );
}

function WindowForm({ from, until, zone, onShow }: Props) {
  const text = (ms: number) => DateTime.fromMillis(ms).setZone(zone).toFormat("yyyy-MM-dd'T'HH:mm");
  const [a, setA] = useState(text(from));
  const [b, setB] = useState(text(until));
  const read = (value: string) => DateTime.fromISO(value, { zone }).toMillis();
  const valid = read(b) > read(a);
  const offset = timeText(until, zone).slice(-6);
  const label = { inputLabel: { shrink: true } };
  return (
    <Box
      component="form"
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}
      onSubmit={(e) => {
        e.preventDefault();
        if (valid) onShow(read(a), read(b));
      }}
    >
      <TextField
        type="datetime-local"
        label={`From (${offset})`}
        value={a}
        onChange={(e) => setA(e.target.value)}
        slotProps={label}
      />
      <TextField
        type="datetime-local"
        label={`Until (${offset})`}
        value={b}
        onChange={(e) => setB(e.target.value)}
        slotProps={label}
        error={!valid}
        helperText={valid ? undefined : 'ends before it begins'}
      />
      <Button type="submit" disabled={!valid} sx={{ height: 40 }}>
        Show
      </Button>
    </Box>
  );
}
