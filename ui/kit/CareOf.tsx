'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { InstrumentPage } from '@/contract/foundOff';
import type { CareRequest } from '@/contract/instruments';
import { daysWorn, type Care, type WornPart } from '@/core/kit/care';
import { inSentence } from '@/core/quantity/quantity';
import { newId, send } from '../shared/api';
import { DayField } from '../shared/DateFields';
import { nowText } from '../shared/deviceClock';
import { NumberField } from '../shared/NumberField';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { gloved, openForm } from '../shared/theme';

/** How a handheld is treated: what is done before it is read, when it goes off, what of it wears. */
export function CareOf({ page, onKept }: { page: InstrumentPage; onKept: () => void }) {
  const [editing, setEditing] = useState(false);
  const mayKeep = useMay('kit');
  const { care } = page.instrument;
  return (
    <Box component="section" aria-label="Care" sx={{ mb: 3, display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="h2" sx={{ flexGrow: 1 }}>
          Care
        </Typography>
        {mayKeep && (
          <Button sx={gloved} onClick={() => setEditing((a) => !a)}>
            {editing ? 'Close the form' : 'Change'}
          </Button>
        )}
      </Box>
      {editing ? (
        <CareForm
          key={page.careId ?? ''}
          page={page}
          onKept={() => {
            setEditing(false);
            onKept();
          }}
        />
      ) : (
        <CareWords care={care} />
      )}
    </Box>
  );
}

function CareWords({ care: { switchesOffAfter, preparation, parts, responses } }: { care: Care }) {
  const isEmpty = switchesOffAfter === null && preparation.length + parts.length + responses.length === 0;
  if (isEmpty)
    return (
      <Typography>
        Nothing is written down: how long it takes to answer, when it switches itself off, what is done before
        it is read, what of it wears.
      </Typography>
    );
  return (
    <>
      {preparation.length > 0 && (
        <Box component="ol" sx={{ m: 0, pl: 3 }}>
          {preparation.map((p) => (
            <li key={p}>{p}</li>
          ))}
        </Box>
      )}
      {responses.map((r) => (
        <Typography key={r.quantity}>
          Its {inSentence(r.quantity)} answers with a time constant of {r.seconds} s: {5 * r.seconds} s until
          less than a hundredth is left.
        </Typography>
      ))}
      {switchesOffAfter !== null && (
        <Typography>Switches itself off {switchesOffAfter} s after the last key.</Typography>
      )}
      {parts.map((p) => (
        <PartWorn key={p.name} part={p} />
      ))}
    </>
  );
}

/** A part that wears, in its days. */
export function PartWorn({ part }: { part: WornPart }) {
  const past = daysWorn(part, nowText().slice(0, 10));
  return (
    <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
      <StateMark state={past > 0 ? 'displaced' : 'sound'} />
      {part.name}, renewed {part.renewedOn}:{' '}
      {past > 0 ? `${past} d past the ${part.goodFor} d it is good for` : `good for ${-past} d more`}
    </Box>
  );
}

function CareForm({ page, onKept }: { page: InstrumentPage; onKept: () => void }) {
  const { instrument, careId } = page;
  const [care, setCare] = useState<Care>(instrument.care);
  const [steps, setSteps] = useState(instrument.care.preparation.join('\n'));
  const keep = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/kit/instruments/${instrument.id}/care`, {
        careId: newId(),
        basedOn: careId,
        care: {
          ...care,
          preparation: steps
            .split('\n')
            .map((s) => s.trim())
            .filter(Boolean),
        },
      } satisfies CareRequest),
    onSuccess: onKept,
  });
  const put = (i: number, change: Partial<WornPart>) =>
    setCare((c) => ({ ...c, parts: c.parts.map((p, n) => (n === i ? { ...p, ...change } : p)) }));
  const isWhole = care.parts.every((p) => p.name.trim() && p.renewedOn && p.goodFor > 0);
  return (
    <Box
      component="form"
      noValidate
      aria-label="Care"
      sx={openForm}
      onSubmit={(e) => {
        e.preventDefault();
        keep.mutate();
      }}
    >
      <TextField
        size="medium"
        multiline
        minRows={2}
        label="Before it is read, a line each"
        value={steps}
        onChange={(e) => setSteps(e.target.value)}
      />
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <NumberField
          large
          label="Switches itself off after, s"
          value={care.switchesOffAfter}
          low={10}
          high={86_400}
          help="empty: it stays on"
          onChange={(switchesOffAfter) => setCare((c) => ({ ...c, switchesOffAfter }))}
        />
        {instrument.quantities.map(({ quantity }) => (
          <NumberField
            key={quantity}
            large
            label={`Time constant, ${inSentence(quantity)}, s`}
            value={care.responses.find((r) => r.quantity === quantity)?.seconds ?? null}
            low={0.1}
            high={3600}
            onChange={(seconds) =>
              setCare((c) => ({
                ...c,
                responses: [
                  ...c.responses.filter((r) => r.quantity !== quantity),
                  ...(seconds === null ? [] : [{ quantity, seconds }]),
                ],
              }))
            }
          />
        ))}
      </Box>
      {care.parts.map((p, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start' }}>
          <TextField
            size="medium"
            label="Part"
            value={p.name}
            onChange={(e) => put(i, { name: e.target.value })}
          />
          <DayField
            large
            label="Renewed on"
            value={p.renewedOn}
            onChange={(renewedOn) => put(i, { renewedOn })}
          />
          <NumberField
            large
            label="Good for, d"
            value={p.goodFor || null}
            low={1}
            high={3660}
            onChange={(goodFor) => put(i, { goodFor: goodFor ?? 0 })}
          />
          <Button
            sx={gloved}
            onClick={() => setCare((c) => ({ ...c, parts: c.parts.filter((_, n) => n !== i) }))}
          >
            Take it out
          </Button>
        </Box>
      ))}
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap' }}>
        <Button
          sx={gloved}
          onClick={() =>
            setCare((c) => ({
              ...c,
              parts: [...c.parts, { name: '', renewedOn: nowText().slice(0, 10), goodFor: 365 }],
            }))
          }
        >
          A part that wears
        </Button>
        <Button type="submit" variant="contained" sx={gloved} disabled={keep.isPending || !isWhole}>
          Keep it
        </Button>
      </Box>
      <ProblemNote error={keep.error} />
    </Box>
  );
}
