'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { useState } from 'react';
import type { VisitView } from '@/contract/visits';
import { quantityCodes, quantityOf } from '@/core/quantity/quantity';
import { isUnit, type Unit } from '@/core/quantity/unit';
import { numberOf } from '../shared/numberOf';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { newId } from '../shared/api';
import { Age } from '../shared/Age';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useHeld } from './held';

const units = [...new Set(['°F', 'ft', ...quantityCodes.map((q) => quantityOf(q).unit)])]
  .filter(isUnit)
  .sort();

/**
 * A reading held at the sensor: typed once where it was read, stamped, in the book, and offered on the screen
 * where it is used.
 */
export function HoldReading({ visit, onDone }: { visit: VisitView; onDone: () => Promise<void> }) {
  const { held, hold, letGo } = useHeld(visit.stationId);
  const [value, setValue] = useState('');
  const [unit, setUnit] = useState<Unit>('°C');
  const [what, setWhat] = useState('');
  const note = useFieldWrite<'note'>(onDone);
  const number = numberOf(value);
  return (
    <Box>
      <Box
        component="form"
        aria-label="Hold a reading"
        onSubmit={(e) => {
          e.preventDefault();
          if (!Number.isFinite(number)) return;
          const { at } = hold({ value: number, unit, what: what.trim() });
          note.mutate({
            kind: 'note',
            stationId: visit.stationId,
            where: visit.code,
            zone: visit.zone,
            body: {
              lineId: newId(),
              stationId: visit.stationId,
              text: `Held: ${number} ${unit}${what.trim() && `, ${what.trim()}`}`,
              occurredAt: at,
            },
          });
          setValue('');
          setWhat('');
        }}
        sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start' }}
      >
        <TextField
          size="medium"
          label="Reading in hand"
          value={value}
          error={value.trim() !== '' && !Number.isFinite(number)}
          onChange={(e) => setValue(e.target.value)}
          sx={{ width: 150 }}
          autoComplete="off"
          slotProps={{ htmlInput: { inputMode: 'decimal' } }}
        />
        <TextField
          select
          size="medium"
          label="Unit"
          value={unit}
          onChange={(e) => setUnit(e.target.value as Unit)}
          sx={{ width: 100 }}
        >
          {units.map((u) => (
            <MenuItem key={u} value={u} sx={{ minHeight: 48 }}>
              {u}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          size="medium"
          label="What was read"
          value={what}
          onChange={(e) => setWhat(e.target.value)}
          sx={{ flexGrow: 1, minWidth: 150 }}
          slotProps={{ htmlInput: { maxLength: 100 } }}
        />
        <Button type="submit" sx={gloved} disabled={!Number.isFinite(number)}>
          Hold it
        </Button>
      </Box>
      <ProblemNote error={note.error} />
      {held.map((h) => (
        <Box key={h.id} sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
          <span>
            Held <b>{`${h.value} ${h.unit}`}</b>
            {h.what && `, ${h.what}`}, <Age at={h.at} />
          </span>
          <Button size="small" sx={{ minHeight: 44 }} onClick={() => letGo(h.id)}>
            Let go
          </Button>
        </Box>
      ))}
    </Box>
  );
}
