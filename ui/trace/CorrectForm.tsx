'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { CorrectSpan } from '@/contract/verifyRequests';
import type { CorrectionProposalView } from '@/contract/recordViews';
import { formatDifference } from '@/core/quantity/format';
import { newId, send } from '../shared/api';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { timeText } from '../shared/time';
import { isoOf, SpanFields } from './SpanFields';
import type { VerifyProps } from './verifyProps';

interface Draft {
  shape: CorrectSpan['shape'];
  fromOffset: string;
  untilOffset: string;
}

/** A step or a pro-rated correction over a span of the record, proposed from two checks or typed; drawn before it is laid. */
export function CorrectForm({
  base,
  series,
  verify,
  span,
  window: shown,
  zone,
  onProposal,
  onChanged,
}: VerifyProps) {
  const [from, setFrom] = useState((span ?? shown).from);
  const [until, setUntil] = useState((span ?? shown).until);
  const [draft, setDraft] = useState<Draft>({ shape: 'step', fromOffset: '', untilOffset: '' });
  const [reason, setReason] = useState('');
  const number = (text: string) =>
    text.trim() === '' ? Number.NaN : Number(text.trim().replace(',', '.').replace('−', '-'));
  const d = verify.decimals + 1;

  const preview = (next: Draft, x = from, y = until) => {
    setDraft(next);
    const [first, last] = [
      number(next.fromOffset),
      number(next.shape === 'linear' ? next.untilOffset : next.fromOffset),
    ];
    if (![x, y, first, last].every(Number.isFinite)) return onProposal(null);
    onProposal(
      next.shape === 'step'
        ? { kind: 'step', from: x, until: y, offset: first }
        : next.shape === 'percentage'
          ? { kind: 'percentage', from: x, until: y, percent: first }
          : { kind: 'linear', from: x, until: y, fromOffset: first, untilOffset: last },
    );
  };
  const take = (p: CorrectionProposalView, shape: Draft['shape']) => {
    const [a, b] = [Date.parse(p.from), Date.parse(p.until)];
    setFrom(a);
    setUntil(b);
    setReason(
      `${shape === 'linear' ? 'drift' : 'difference'} between the checks of ${p.from.slice(0, 10)} and ${p.until.slice(0, 10)}`,
    );
    const text = (v: number) => String(Number(v.toFixed(d)));
    const next =
      shape === 'linear'
        ? { shape, fromOffset: text(p.linear.fromOffset), untilOffset: text(p.linear.untilOffset) }
        : { shape, fromOffset: text(p.step.offset), untilOffset: text(p.step.offset) };
    preview(next, a, b);
  };
  const correct = useMutation({
    mutationFn: () =>
      send('POST', `${base}/corrections`, {
        layerId: newId(),
        shape: draft.shape,
        from: isoOf(from),
        until: isoOf(until),
        fromOffset: number(draft.fromOffset),
        untilOffset: number(draft.shape === 'linear' ? draft.untilOffset : draft.fromOffset),
        reason,
      }),
    onSuccess: onChanged,
  });
  if (series.aggregate !== 'mean')
    return (
      <Typography>
        Totals and directions are not corrected by adding an offset: mark the span instead.
      </Typography>
    );
  return (
    <Box sx={{ display: 'grid', gap: 2 }}>
      <Box>
        <Typography variant="h3">From the checks</Typography>
        {verify.proposals.length === 0 && (
          <Typography>Two checks of one sensor are needed to propose a correction.</Typography>
        )}
        {verify.proposals.map((p) => (
          <Box key={p.from} sx={{ py: 1, borderTop: 1, borderColor: 'divider' }}>
            <Typography>
              {timeText(p.from, zone)} to {timeText(p.until, zone)}: {formatDifference(p.leftAtFirst, d)}{' '}
              {verify.unit} left at the first,{' '}
              <b>
                {formatDifference(p.foundAtSecond, d)} {verify.unit}
              </b>{' '}
              found at the second. {!p.worthwhile && 'Inside the tolerance: leave it alone.'}
            </Typography>
            <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center', mt: 0.5 }}>
              <Button size="small" onClick={() => take(p, 'linear')}>
                Preview pro-rated
              </Button>
              <Sum>{p.linear.sum}</Sum>
              <Button size="small" onClick={() => take(p, 'step')}>
                Preview a step
              </Button>
              <Sum>{p.step.sum}</Sum>
            </Box>
          </Box>
        ))}
      </Box>
      <Box
        component="form"
        onSubmit={(e) => {
          e.preventDefault();
          correct.mutate();
        }}
      >
        <Typography variant="h3" sx={{ mb: 1 }}>
          What is added to the logged values
        </Typography>
        <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap' }}>
          <SpanFields
            from={from}
            until={until}
            zone={zone}
            onFrom={(v) => {
              setFrom(v);
              preview(draft, v, until);
            }}
            onUntil={(v) => {
              setUntil(v);
              preview(draft, from, v);
            }}
          />
          <TextField
            select
            label="Shape"
            value={draft.shape}
            sx={{ width: 140 }}
            onChange={(e) => preview({ ...draft, shape: e.target.value as Draft['shape'] })}
            slotProps={{ select: { native: true } }}
          >
            <option value="step">step</option>
            <option value="linear">pro-rated</option>
            <option value="percentage">percentage</option>
          </TextField>
          <TextField
            label={
              {
                step: `Add, ${verify.unit}`,
                linear: `Add at first, ${verify.unit}`,
                percentage: 'Add, % of it',
              }[draft.shape]
            }
            value={draft.fromOffset}
            sx={{ width: 140 }}
            onChange={(e) => preview({ ...draft, fromOffset: e.target.value })}
          />
          {draft.shape === 'linear' && (
            <TextField
              label={`and at last, ${verify.unit}`}
              value={draft.untilOffset}
              sx={{ width: 140 }}
              onChange={(e) => preview({ ...draft, untilOffset: e.target.value })}
            />
          )}
          <TextField
            label="Reason"
            value={reason}
            onChange={(e) => setReason(e.target.value)}
            sx={{ flexGrow: 1, minWidth: 240 }}
          />
          {draft.shape === 'percentage' && ['°C', '°', 'pH'].includes(verify.unit) && (
            <Typography variant="body2" sx={{ flexBasis: '100%' }}>
              A share of a value in {verify.unit} hangs on where its zero lies: an amount is usually meant.
            </Typography>
          )}
          <Button
            type="submit"
            variant="contained"
            disabled={
              reason.trim().length < 3 || !Number.isFinite(number(draft.fromOffset)) || correct.isPending
            }
          >
            Lay it over the record
          </Button>
        </Box>
        <Typography variant="body2" color="text.secondary" sx={{ mt: 1 }}>
          The dashed line shows what it would make of the record. The device is left alone; a correction can
          be taken back.
        </Typography>
        <ProblemNote error={correct.error} />
      </Box>
    </Box>
  );
}
