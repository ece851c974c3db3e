'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { InstrumentPage } from '@/contract/foundOff';
import type { CalibrationRequest, CalibrationView } from '@/contract/instruments';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { inSentence, quantityOf, type QuantityCode } from '@/core/quantity/quantity';
import { newId, send } from '../shared/api';
import { DayField } from '../shared/DateFields';
import { NumberField } from '../shared/NumberField';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { gloved, openForm } from '../shared/theme';

/** What laboratories said of an instrument, newest first; the newest corrects what it shows. */
export function Calibrations({ page, onKept }: { page: InstrumentPage; onKept: () => void }) {
  const [adding, setAdding] = useState(false);
  const mayKeep = useMay('kit');
  const { instrument, calibrations } = page;
  return (
    <Box component="section" aria-label="Calibrations" sx={{ mb: 3, display: 'grid', gap: 1 }}>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center', flexWrap: 'wrap' }}>
        <Typography variant="h2" sx={{ flexGrow: 1 }}>
          Calibrations
        </Typography>
        {mayKeep && (
          <Button sx={gloved} onClick={() => setAdding((a) => !a)}>
            {adding ? 'Close the form' : 'Calibrated anew'}
          </Button>
        )}
      </Box>
      {adding && (
        <CalibrationForm
          page={page}
          onKept={() => {
            setAdding(false);
            onKept();
          }}
        />
      )}
      {calibrations.length === 0 && (
        <Typography>
          Calibrated {instrument.calibratedOn}, as it was taken into the kit; no certificate with corrections
          is on file: it is as good as its tolerance.
        </Typography>
      )}
      {calibrations.map((c) => (
        <Calibration key={c.id} of={c} />
      ))}
    </Box>
  );
}

function Calibration({ of: { doneOn, dueOn, certificate, says, initials } }: { of: CalibrationView }) {
  return (
    <Box sx={{ borderTop: 1, borderColor: 'divider', py: 1 }}>
      <Typography>
        <b>{doneOn}</b>, good until {dueOn}: {certificate} ({initials})
      </Typography>
      {says.map((s) => {
        const { name, unit, decimals: d } = quantityOf(s.quantity);
        return (
          <Box key={s.quantity}>
            {name}:{' '}
            <Sum>
              {s.points
                .map((p) => `${formatValue(p.shown, d)} ${formatDifference(p.correction, d)}`)
                .join(', ')}
            </Sum>{' '}
            {unit}, U = ±{formatValue(s.uncertainty, d)} (k = 2), may have moved since by ±
            {formatValue(s.drift, d)} {unit}
            {s.moved !== null &&
              `; since the certificate before it moved by ${formatDifference(s.moved, d)} ${unit}`}
          </Box>
        );
      })}
      {says.length === 0 && (
        <Typography variant="body2">Found within its tolerance; states no correction.</Typography>
      )}
    </Box>
  );
}

/** A quantity of the certificate while it is being typed. */
interface Typed {
  readonly points: readonly { readonly shown: number | null; readonly correction: number | null }[];
  readonly uncertainty: number | null;
  readonly drift: number | null;
}
const emptyPoint = { shown: null, correction: null };

function CalibrationForm({ page: { instrument }, onKept }: { page: InstrumentPage; onKept: () => void }) {
  const [doneOn, setDoneOn] = useState('');
  const [dueOn, setDueOn] = useState('');
  const [certificate, setCertificate] = useState('');
  const [says, setSays] = useState<Readonly<Partial<Record<QuantityCode, Typed>>>>({});
  const typed = Object.entries(says) as [QuantityCode, Typed][];
  const isWhole = typed.every(
    ([, t]) =>
      t.uncertainty !== null &&
      t.drift !== null &&
      t.points.every((p) => p.shown !== null && p.correction !== null),
  );
  const keep = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/kit/instruments/${instrument.id}/calibrations`, {
        calibrationId: newId(),
        doneOn,
        dueOn,
        certificate,
        says: typed.map(([quantity, t]) => ({
          quantity,
          points: t.points.map((p) => ({ shown: p.shown!, correction: p.correction! })),
          uncertainty: t.uncertainty!,
          drift: t.drift!,
        })),
      } satisfies CalibrationRequest),
    onSuccess: onKept,
  });
  const set = (quantity: QuantityCode, change: Partial<Typed>) =>
    setSays((all) => ({ ...all, [quantity]: { ...all[quantity]!, ...change } }));
  return (
    <Box
      component="form"
      noValidate
      aria-label="Calibrated anew"
      sx={openForm}
      onSubmit={(e) => {
        e.preventDefault();
        keep.mutate();
      }}
    >
      <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <DayField large label="Calibrated on" value={doneOn} onChange={setDoneOn} />
        <DayField large label="Due on" value={dueOn} onChange={setDueOn} />
        <TextField
          size="medium"
          label="Certificate, its number and whose"
          value={certificate}
          onChange={(e) => setCertificate(e.target.value)}
          sx={{ flexGrow: 1, maxWidth: 420 }}
        />
      </Box>
      <Typography variant="body2">
        A correction is what is to be added to what the instrument shows. Where the certificate states none,
        its tolerance goes on standing for it.
      </Typography>
      {instrument.quantities.map(({ quantity }) => {
        const { name, unit } = quantityOf(quantity);
        const its = says[quantity];
        return its ? (
          <Box key={quantity} component="fieldset" sx={{ border: 1, borderColor: 'divider', p: 1.5 }}>
            <Box component="legend" sx={{ px: 0.5 }}>
              {name}, {unit}
            </Box>
            {its.points.map((p, i) => {
              const put = (change: Partial<typeof p>) =>
                set(quantity, { points: its.points.map((x, n) => (n === i ? { ...x, ...change } : x)) });
              return (
                <Box key={i} sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', mb: 1 }}>
                  <NumberField
                    large
                    label={`It showed, ${unit}`}
                    value={p.shown}
                    onChange={(shown) => put({ shown })}
                  />
                  <NumberField
                    large
                    label={`Correction, ${unit}`}
                    value={p.correction}
                    onChange={(correction) => put({ correction })}
                  />
                </Box>
              );
            })}
            <Box sx={{ display: 'flex', gap: 2, flexWrap: 'wrap', alignItems: 'flex-start' }}>
              <NumberField
                large
                label={`U at k = 2, ±${unit}`}
                value={its.uncertainty}
                low={0}
                onChange={(uncertainty) => set(quantity, { uncertainty })}
              />
              <NumberField
                large
                label={`May move until due, ±${unit}`}
                value={its.drift}
                low={0}
                help="by how much its certificates differ"
                onChange={(drift) => set(quantity, { drift })}
              />
              <Button sx={gloved} onClick={() => set(quantity, { points: [...its.points, emptyPoint] })}>
                One more point
              </Button>
              <Button
                sx={gloved}
                onClick={() =>
                  setSays((all) => Object.fromEntries(Object.entries(all).filter(([q]) => q !== quantity)))
                }
              >
                States none
              </Button>
            </Box>
          </Box>
        ) : (
          <Button
            key={quantity}
            sx={{ ...gloved, justifySelf: 'start' }}
            onClick={() =>
              setSays((all) => ({
                ...all,
                [quantity]: { points: [emptyPoint], uncertainty: null, drift: null },
              }))
            }
          >
            It states corrections of {inSentence(quantity)}
          </Button>
        );
      })}
      <Button
        type="submit"
        variant="contained"
        sx={{ ...gloved, justifySelf: 'start' }}
        disabled={keep.isPending || !doneOn || !dueOn || !certificate.trim() || !isWhole}
      >
        Keep this calibration
      </Button>
      <ProblemNote error={keep.error} />
    </Box>
  );
}
