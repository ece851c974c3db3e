'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { memo, useState } from 'react';
import type { Support } from '@/core/discharge/curve';
import { formatValue, roundTo } from '@/core/quantity/format';
import { numberOf } from '../shared/numberOf';

/** How supports are changed, whatever they are then. */
export type ChangeSupports = (to: (now: readonly Support[]) => readonly Support[]) => void;

/** The supports as numbers. */
export const Supports = memo(function Supports({
  supports,
  onChange,
}: {
  supports: readonly Support[];
  /** The same function from one drawing to the next. */
  onChange: ChangeSupports;
}) {
  return (
    <Box
      role="group"
      aria-label="Supports"
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mt: 1, alignItems: 'center' }}
    >
      {supports.map((s, i) => (
        <KField key={i} i={i} level={s.level} k={s.k} isOnly={supports.length === 1} onChange={onChange} />
      ))}
      <Button
        onClick={() =>
          onChange((now) => {
            const last = now.at(-1)!;
            return [...now, { level: roundTo(last.level + 0.5, 3), k: last.k }];
          })
        }
      >
        Another support
      </Button>
    </Box>
  );
});

/** One of them: a drag of another leaves it as it is. */
const KField = memo(function KField({
  i,
  level,
  k,
  isOnly,
  onChange,
}: Support & { i: number; isOnly: boolean; onChange: ChangeSupports }) {
  /** What is typed and not taken yet. */
  const [typed, setTyped] = useState<string | null>(null);
  const wanted = typed === null ? k : numberOf(typed);
  const isFine = wanted > 0 && wanted <= 5;
  const take = () => {
    if (typed === null || !isFine) return;
    setTyped(null);
    if (wanted !== k) onChange((now) => now.map((o, n) => (n === i ? { ...o, k: roundTo(wanted, 3) } : o)));
  };
  const at = `${formatValue(level, 2)} m`;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center' }}>
      <TextField
        label={`k at ${at}`}
        value={typed ?? formatValue(k, 3)}
        error={!isFine}
        onChange={(e) => setTyped(e.target.value)}
        onBlur={take}
        onKeyDown={(e) => e.key === 'Enter' && take()}
        slotProps={{ htmlInput: { inputMode: 'decimal' } }}
        sx={{ width: 108 }}
      />
      {!isOnly && (
        <Button
          size="small"
          aria-label={`Leave out the support at ${at}`}
          onClick={() => onChange((now) => now.filter((_, n) => n !== i))}
          sx={{ minWidth: 32 }}
        >
          ×
        </Button>
      )}
    </Box>
  );
});
