'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useState } from 'react';
import { InstantField } from '../shared/DateFields';

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
  const [a, setA] = useState(from);
  const [b, setB] = useState(until);
  const valid = b > a;
  return (
    <Box
      component="form"
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}
      onSubmit={(e) => {
        e.preventDefault();
        if (valid) onShow(a, b);
      }}
    >
      <InstantField label="From" value={a} zone={zone} onChange={setA} />
      <InstantField
        label="Until"
        value={b}
        zone={zone}
        onChange={setB}
        error={!valid}
        helperText={valid ? undefined : b <= a ? 'ends before it begins' : 'no whole time'}
      />
      <Button type="submit" disabled={!valid} sx={{ height: 40 }}>
        Show
      </Button>
    </Box>
  );
}
