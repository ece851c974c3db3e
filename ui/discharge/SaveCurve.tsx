'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { memo, useState } from 'react';
import type { CurveView, DischargeView, SetCurve } from '@/contract/discharge';
import { usualK } from '@/core/discharge/curve';
import { formatValue, roundTo } from '@/core/quantity/format';
import { newId, send } from '../shared/api';
import { InstantField } from '../shared/DateFields';
import { numberOf } from '../shared/numberOf';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { useMoment } from '../shared/useNow';

/** Supports of the curve with the stream, and against it. */
export type Led = Pick<CurveView, 'forward' | 'reverse'>;

/** Keeps what was led as another version, from an instant on. */
export const SaveCurve = memo(function SaveCurve({
  view,
  curve,
  odd,
  ledNow,
  onSaved,
}: {
  view: DischargeView;
  curve: CurveView;
  /** A k outside the usual, that is asked about; null for none. */
  odd: number | null;
  /** As it is led at the moment it is kept. */
  ledNow: () => Led;
  onSaved: () => Promise<void>;
}) {
  const [from, setFrom] = useMoment();
  const [note, setNote] = useState('');
  const [percent, setPercent] = useState(String(roundTo(100 * curve.uncertainty, 1)));
  const [looked, setLooked] = useState(false);
  const share = numberOf(percent) / 100;
  const save = useMutation({
    mutationFn: () => {
      const { forward, reverse } = ledNow();
      return send('POST', `/api/v1/stations/${view.stationId}/discharge/curves`, {
        curveId: newId(),
        basedOn: curve.id,
        forward: [...forward],
        reverse: reverse && [...reverse],
        uncertainty: share,
        holdsFrom: new Date(from).toISOString(),
        note,
        lookedAgain: looked,
      } satisfies SetCurve);
    },
    onSuccess: onSaved,
  });
  return (
    <Box
      component="form"
      aria-label="Keep this curve"
      onSubmit={(e) => {
        e.preventDefault();
        save.mutate();
      }}
      sx={{
        display: 'flex',
        gap: 1,
        flexWrap: 'wrap',
        alignItems: 'center',
        mt: 1.5,
        p: 1.5,
        border: 2,
        borderColor: 'primary.main',
      }}
    >
      <Typography variant="body2" sx={{ flexBasis: '100%' }}>
        From then on it takes the place of every curve before; the discharges since are reckoned anew.
      </Typography>
      <InstantField label="Holds from" value={from} zone={view.zone} onChange={setFrom} />
      <TextField
        label="k good to ±, %"
        value={percent}
        onChange={(e) => setPercent(e.target.value)}
        sx={{ width: 140 }}
      />
      <TextField
        label="Why"
        value={note}
        onChange={(e) => setNote(e.target.value)}
        sx={{ width: 300, maxWidth: '100%' }}
      />
      {odd !== null && (
        <FormControlLabel
          control={<Checkbox checked={looked} onChange={(_, on) => setLooked(on)} />}
          label={`A k of ${formatValue(odd, 3)} is outside ${usualK[0]}–${usualK[1]}: I looked again, it stands`}
        />
      )}
      <Button
        type="submit"
        variant="contained"
        sx={gloved}
        disabled={
          note.trim().length < 3 ||
          !(share > 0 && share <= 1) ||
          !Number.isFinite(from) ||
          (odd !== null && !looked) ||
          save.isPending
        }
      >
        Keep as curve {curve.number + 1}
      </Button>
      <ProblemNote error={save.error} />
    </Box>
  );
});
