'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { ChannelWatchView, SetWatchRule } from '@/contract/watch';
import type { WatchRule } from '@/core/watch/rule';
import { newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

/** Puts what was tried in force. */
export function ArmForm({
  view,
  rule,
  isChanged,
  onSaved,
}: {
  view: ChannelWatchView;
  rule: WatchRule;
  /** It differs from the rule in force, or there is none. */
  isChanged: boolean;
  onSaved: () => Promise<void>;
}) {
  const [note, setNote] = useState('');
  const last = view.rules[0] ?? null;
  const save = useMutation({
    mutationFn: (armed: boolean) =>
      send('POST', `/api/v1/stations/${view.stationId}/channels/${view.channelId}/watch/rules`, {
        ruleId: newId(),
        basedOn: last?.id ?? null,
        rule,
        armed,
        note,
      } satisfies SetWatchRule),
    onSuccess: async () => {
      setNote('');
      await onSaved();
    },
  });
  return (
    <Box sx={{ display: 'grid', gap: 1, p: 1.5, border: 2, borderColor: 'primary.main', my: 2 }}>
      <Typography variant="body2">
        {last?.armed ? `Rule ${last.number} is in force.` : 'Nothing is in force.'} This is no safety system:
        where somebody could be hurt, what the local code asks for stays in place beside it.
      </Typography>
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', alignItems: 'center' }}>
        <TextField
          label="Why, as agreed with whom"
          value={note}
          onChange={(e) => setNote(e.target.value)}
          sx={{ flex: '1 1 240px' }}
        />
        <Button
          variant="contained"
          sx={gloved}
          disabled={save.isPending || (last?.armed === true && !isChanged)}
          onClick={() => save.mutate(true)}
        >
          Arm as rule {(last?.number ?? 0) + 1}
        </Button>
        {last?.armed && (
          <Button sx={gloved} disabled={save.isPending} onClick={() => save.mutate(false)}>
            Switch watching off
          </Button>
        )}
      </Box>
      <ProblemNote error={save.error} />
    </Box>
  );
}
