'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { StageWetThreshold } from '@/contract/requests';
import type { ChannelSettingsView, WetThresholdView } from '@/contract/settingViews';
import { newId, Refusal, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

/** From where on a leaf counts as wet: read dry on site, plus the margin of its profile; staged like any setting. */
export function ReadDry({
  base,
  channel: c,
  onStaged,
}: {
  base: string;
  channel: ChannelSettingsView;
  onStaged: () => Promise<void>;
}) {
  const [isDry, setIsDry] = useState(false);
  const [despite, setDespite] = useState('');
  const read = useMutation({
    mutationFn: () =>
      send<WetThresholdView>('POST', `${base}/wet-threshold`, {
        revisionId: newId(),
        basedOn: c.newest,
        isDry,
        despite,
      } satisfies StageWetThreshold),
    onSuccess: onStaged,
  });
  const doubted = read.error instanceof Refusal && read.error.problem.code === 'doubtful-dry';
  return (
    <Box
      component="form"
      noValidate
      aria-label={`Read channel ${c.number} dry`}
      sx={{ mt: 1, display: 'flex', flexWrap: 'wrap', gap: 1.5, alignItems: 'center' }}
      onSubmit={(e) => {
        e.preventDefault();
        read.mutate();
      }}
    >
      <Typography variant="body2" sx={{ flexBasis: '100%' }}>
        Wet counts from what it reads <b>dry</b>, here, plus {c.wetMargin} of its profile. Clean it, wait
        until it is dry, then read it.
      </Typography>
      <FormControlLabel
        control={<Checkbox checked={isDry} onChange={(e) => setIsDry(e.target.checked)} />}
        label="I looked: it is dry"
      />
      {doubted && (
        <TextField
          label="Why it is dry all the same"
          value={despite}
          sx={{ minWidth: 280 }}
          onChange={(e) => setDespite(e.target.value)}
        />
      )}
      <Button
        type="submit"
        variant="outlined"
        sx={gloved}
        disabled={!isDry || read.isPending || (doubted && despite.trim() === '')}
      >
        {read.isPending ? 'Reading …' : 'Read it dry and stage'}
      </Button>
      <Box role="status" sx={{ flexBasis: '100%' }}>
        {read.data &&
          `${read.data.sum}, staged${read.data.unknown.length > 0 ? `. Nothing is known here of ${read.data.unknown.join(' or ')}: your eyes decide` : ''}.`}
      </Box>
      <Box sx={{ flexBasis: '100%' }}>
        <ProblemNote error={read.error} />
      </Box>
    </Box>
  );
}
