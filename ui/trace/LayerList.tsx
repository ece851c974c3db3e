'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { LayerView } from '@/contract/recordViews';
import { newId, send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { timeText } from '../shared/time';
import { ProvedNote } from './ProvedNote';
import type { VerifyProps } from './verifyProps';

const shown = 40;

/** Everything laid over the window, with who and when; each can be taken back by a later layer. */
export function LayerList({ base, series, zone, onChanged, verify }: VerifyProps) {
  const mayMark = useMay('mark');
  const mayApprove = useMay('approve');
  const [taking, setTaking] = useState<string | null>(null);
  const layers = [...series.layers].sort((a, b) => rank(a) - rank(b) || b.from - a.from);
  return (
    <>
      <ProvedNote series={series} verify={verify} />
      {verify.approval && (
        <Typography sx={{ mb: 1 }}>
          Approved by <b>{verify.approval.initials}</b> on {timeText(verify.approval.at, zone)}:{' '}
          {timeText(verify.approval.from, zone)} to {timeText(verify.approval.until, zone)}.{' '}
          {verify.approval.reopened && <b>Reopened, {verify.approval.reopened}.</b>}
        </Typography>
      )}
      <Box component="ul" sx={{ listStyle: 'none', p: 0, m: 0 }} aria-label="What was done in this window">
        {series.markers.map((m, i) => (
          <Box component="li" key={i} sx={{ py: 0.5 }}>
            {timeText(m.t, zone)}: {m.text}
          </Box>
        ))}
        {layers.slice(0, shown).map((l) => (
          <Box component="li" key={l.id} sx={{ py: 0.5, borderTop: 1, borderColor: 'divider' }}>
            <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
              <b>{l.kind}</b>
              <span>
                {timeText(l.from, zone)} to {l.until === null ? 'now' : timeText(l.until, zone)}: {l.kind},{' '}
                {l.reason}
              </span>
              <Box component="span" sx={{ color: 'text.secondary' }}>
                {l.initials} {timeText(l.recordedAt, zone)}
              </Box>
              {l.revocable && (l.kind === 'approval' ? mayApprove : mayMark) && taking !== l.id && (
                <Button size="small" onClick={() => setTaking(l.id)} aria-label={`Take back: ${l.reason}`}>
                  Take back
                </Button>
              )}
            </Box>
            {taking === l.id && (
              <TakeBack
                base={base}
                layer={l}
                onEnd={(changed) => {
                  setTaking(null);
                  if (changed) void onChanged();
                }}
              />
            )}
          </Box>
        ))}
      </Box>
      {layers.length > shown && (
        <Typography color="text.secondary">
          and {layers.length - shown} more: narrow the window to see them.
        </Typography>
      )}
      {layers.length === 0 && series.markers.length === 0 && (
        <Typography>Nothing lies over the record in this window.</Typography>
      )}
    </>
  );
}

const order: readonly LayerView['kind'][] = [
  'approval',
  'withdrawal',
  'correction',
  'off-line',
  'clock',
  'flag',
];
const rank = (l: LayerView) => order.indexOf(l.kind) * 10 - (l.flag ?? 0);

function TakeBack({
  base,
  layer,
  onEnd,
}: {
  base: string;
  layer: LayerView;
  onEnd: (changed: boolean) => void;
}) {
  const [reason, setReason] = useState('');
  const take = useMutation({
    mutationFn: () => send('POST', `${base}/layers/${layer.id}/revoke`, { layerId: newId(), reason }),
    onSuccess: () => onEnd(true),
  });
  return (
    <Box
      component="form"
      sx={{ mt: 1 }}
      onSubmit={(e) => {
        e.preventDefault();
        take.mutate();
      }}
    >
      <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap' }}>
        <TextField
          label="Why it is taken back"
          value={reason}
          onChange={(e) => setReason(e.target.value)}
          sx={{ width: 320 }}
          autoFocus
        />
        <Button type="submit" disabled={reason.trim().length < 3 || take.isPending}>
          Take it back
        </Button>
        <Button onClick={() => onEnd(false)}>Leave it</Button>
      </Box>
      <ProblemNote error={take.error} />
    </Box>
  );
}
