'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { DischargeView, SectionView, SetCurve } from '@/contract/discharge';
import { logLawK, type Support } from '@/core/discharge/curve';
import { wettedAt } from '@/core/discharge/section';
import { formatValue, roundTo } from '@/core/quantity/format';
import { newId, send } from '../shared/api';
import { metresOf } from '@/core/water/metres';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';

/** A curve begins with so many supports, and its k is good to so much until gaugings say better. Our own choice. */
const supportsAtFirst = 5;
const goodTo = 0.1;

/** The first curve: by the logarithmic velocity distribution over the depth of the section. */
export function StartCurve({
  view,
  section,
  onSaved,
}: {
  view: DischargeView;
  section: SectionView;
  onSaved: () => Promise<void>;
}) {
  const may = useMay('mark');
  const [text, setText] = useState('0.05');
  const roughness = metresOf(text);
  const supports = roughness > 0 ? startOf(section, roughness) : null;
  const save = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${view.stationId}/discharge/curves`, {
        curveId: newId(),
        basedOn: null,
        forward: supports!,
        reverse: null,
        uncertainty: goodTo,
        holdsFrom: new Date(section.from).toISOString(),
        note: `logarithmic velocity distribution, kₛ = ${formatValue(roughness, 3)} m`,
        lookedAgain: false,
      } satisfies SetCurve),
    onSuccess: onSaved,
  });
  return (
    <Box component="section" aria-label="First curve">
      <Typography variant="h2">No k curve yet</Typography>
      <Typography sx={{ my: 1 }}>
        It begins by the logarithmic velocity distribution over a rough bed (law of the wall, Prandtl and von
        Kármán): k = 1 − 1 ÷ ln(30 h ÷ kₛ), h the mean depth. Gaugings lead it from there.
      </Typography>
      {may && (
        <Box
          component="form"
          aria-label="First curve"
          onSubmit={(e) => {
            e.preventDefault();
            save.mutate();
          }}
          sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}
        >
          <TextField
            label="Roughness kₛ, m"
            value={text}
            error={!(roughness > 0)}
            helperText="Gravel 0.05, boulders or weed 0.3"
            onChange={(e) => setText(e.target.value)}
          />
          {supports && (
            <Sum>
              {supports.map((s) => `${formatValue(s.k, 3)} at ${formatValue(s.level, 2)} m`).join(', ')}
            </Sum>
          )}
          <Button type="submit" variant="contained" sx={gloved} disabled={!supports || save.isPending}>
            Begin with this curve
          </Button>
        </Box>
      )}
      <ProblemNote error={save.error} />
    </Box>
  );
}

/** Supports evenly from near the bed to the lower bank. */
export function startOf({ points }: Pick<SectionView, 'points'>, roughness: number): Support[] {
  const all = points.map((p) => p.elevation);
  const [low, high] = [Math.min(...all), Math.min(all[0]!, all.at(-1)!)];
  return Array.from({ length: supportsAtFirst }, (_, i): Support => {
    const level = roundTo(low + ((i + 0.5) / supportsAtFirst) * (high - low), 2);
    return { level, k: roundTo(logLawK(Math.max(0.01, wettedAt(points, level).meanDepth), roughness), 3) };
  });
}
