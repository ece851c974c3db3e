'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import FormControlLabel from '@mui/material/FormControlLabel';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { StageProposed, WriteAll } from '@/contract/requests';
import type { ChannelSettingsView, OwnView } from '@/contract/settingViews';
import type { OperationView } from '@/contract/views';
import { newId, send } from '../shared/api';
import { NumberField } from '../shared/NumberField';
import { OperationProgress } from '../shared/OperationProgress';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';
import { endWord, useOperation } from '../shared/useOperation';

/** All channels at once: those without settings are staged as proposed, and what is staged is written. */
export function WholeLogger({
  stationId,
  own,
  channels,
  onChanged,
}: {
  stationId: string;
  own: OwnView | null;
  channels: readonly ChannelSettingsView[];
  onChanged: () => Promise<void>;
}) {
  const mayMeasure = useMay('measure');
  const [keep, setKeep] = useState(true);
  const [storage, setStorage] = useState<number | null>(600);
  const base = `/api/v1/stations/${stationId}/settings`;
  const stage = useMutation({
    mutationFn: () =>
      send('POST', `${base}/stage-proposed`, { storageInterval: storage ?? 0 } satisfies StageProposed),
    onSuccess: onChanged,
  });
  const operation = useOperation(() => void onChanged());
  const write = useMutation({
    mutationFn: () =>
      send<OperationView>('POST', `${base}/write-all`, { operationId: newId(), keep } satisfies WriteAll),
    onSuccess: (o) => operation.follow(o.id),
  });
  const unset = channels.filter((c) => c.fed && !c.staged && !c.written).length;
  const staged = channels.filter((c) => c.staged).length + (own?.staged ? 1 : 0);
  if (!mayMeasure || (unset < 2 && staged < 2 && !operation.id)) return null;
  return (
    <Box sx={{ display: 'grid', gap: 1, mb: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        {unset > 1 && (
          <>
            <Box sx={{ width: 190 }}>
              <NumberField
                label="All stored every, s"
                value={storage}
                low={1}
                high={86_400}
                empty={false}
                onChange={setStorage}
              />
            </Box>
            <Button sx={gloved} disabled={stage.isPending} onClick={() => stage.mutate()}>
              Stage what is proposed for {unset} channels
            </Button>
          </>
        )}
        {staged > 1 && (
          <Button
            variant="contained"
            sx={gloved}
            disabled={operation.running || write.isPending}
            onClick={() => write.mutate()}
          >
            Write all {staged} staged
          </Button>
        )}
        {staged > 1 && own?.keepsWhenTold && (
          <FormControlLabel
            control={<Checkbox checked={keep} onChange={(e) => setKeep(e.target.checked)} />}
            label="and store it for good; else it lasts until power-off"
          />
        )}
      </Box>
      {operation.running && <OperationProgress operation={operation} label="Progress of writing" />}
      <Box role="status">{operation.ended && `${endWord[operation.ended]}: ${operation.message}`}</Box>
      <ProblemNote error={stage.error ?? write.error} />
    </Box>
  );
}
