'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { VisitView } from '@/contract/visits';
import { useFieldWrite } from '../outbox/useFieldWrite';
import { newId } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { usePerson } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

/** Arriving: who else is here, and each hazard of the place acknowledged by name, every time. */
export function Coming({ visit, onDone }: { visit: VisitView; onDone: () => Promise<void> }) {
  const person = usePerson();
  const [others, setOthers] = useState('');
  const [acknowledged, setAcknowledged] = useState<readonly string[]>([]);
  const arrive = useFieldWrite<'arrive'>(onDone);
  const left = visit.cautions.filter((c) => !acknowledged.includes(c)).length;
  return (
    <Box
      component="form"
      aria-label="Arrive"
      onSubmit={(e) => {
        e.preventDefault();
        arrive.mutate({
          kind: 'arrive',
          stationId: visit.stationId,
          where: visit.code,
          zone: visit.zone,
          body: {
            arrivalId: newId(),
            others: others.trim(),
            acknowledged: [...acknowledged],
            occurredAt: nowText(),
          },
        });
      }}
      sx={{
        border: 1,
        borderColor: 'divider',
        bgcolor: 'background.paper',
        p: 2,
        display: 'grid',
        gap: 1,
        maxWidth: 760,
      }}
    >
      {visit.cautions.length > 0 && (
        <Box component="fieldset" sx={{ border: 0, p: 0, m: 0 }}>
          <Typography component="legend" variant="h3">
            ⚠ {person.initials} acknowledges
          </Typography>
          {visit.cautions.map((c) => (
            <FormControlLabel
              key={c}
              sx={{ display: 'flex', minHeight: 48 }}
              control={
                <Checkbox
                  checked={acknowledged.includes(c)}
                  onChange={(e) =>
                    setAcknowledged(
                      e.target.checked ? [...acknowledged, c] : acknowledged.filter((a) => a !== c),
                    )
                  }
                />
              }
              label={c}
            />
          ))}
          <Typography variant="body2" color="text.secondary">
            Local codes and licensed practice come first.
          </Typography>
        </Box>
      )}
      <TextField
        label="With whom"
        value={others}
        onChange={(e) => setOthers(e.target.value)}
        helperText="initials or names; nobody works alone over water, in a sump or on a mast"
        slotProps={{ htmlInput: { maxLength: 200 } }}
      />
      <ProblemNote error={arrive.error} />
      <Button type="submit" variant="contained" sx={gloved} disabled={left > 0 || arrive.isPending}>
        {left > 0 ? `Arrive: ${left} to be acknowledged` : 'Arrive'}
      </Button>
    </Box>
  );
}
