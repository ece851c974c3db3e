'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { send } from './api';
import { ProblemNote } from './ProblemNote';
import { gloved } from './theme';

/** Takes an entry of a station's water back, with its reason: it stays on file, and does not count. */
export function TakeBack({
  address,
  what,
  onChanged,
}: {
  /** What is taken back, under the API. */
  address: string;
  /** Its name, where what stands beside it does not say. */
  what?: string;
  onChanged: () => Promise<void>;
}) {
  const [reason, setReason] = useState<string | null>(null);
  const back = useMutation({
    mutationFn: () => send('POST', `${address}/take-back`, { reason }),
    onSuccess: async () => {
      setReason(null);
      await onChanged();
    },
  });
  if (reason === null)
    return (
      <Button size="small" sx={{ justifySelf: 'start', whiteSpace: 'nowrap' }} onClick={() => setReason('')}>
        {what ? `Take back ${what}` : 'Take back'}
      </Button>
    );
  return (
    <Box
      component="form"
      aria-label="Take back"
      onSubmit={(e) => {
        e.preventDefault();
        back.mutate();
      }}
      sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'start', mt: 0.5 }}
    >
      <TextField
        size="medium"
        label="Why it is taken back"
        value={reason}
        autoFocus
        onChange={(e) => setReason(e.target.value)}
        sx={{ width: 280, maxWidth: '100%' }}
      />
      <Button type="submit" sx={gloved} disabled={reason.trim().length < 3 || back.isPending}>
        Take back
      </Button>
      <Button sx={gloved} onClick={() => setReason(null)}>
        Leave it
      </Button>
      <ProblemNote error={back.error} />
    </Box>
  );
}
