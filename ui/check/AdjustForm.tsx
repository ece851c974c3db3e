'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import ToggleButton from '@mui/material/ToggleButton';
import ToggleButtonGroup from '@mui/material/ToggleButtonGroup';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import type { Adjust } from '@/contract/requests';
import type { CheckView } from '@/contract/checkViews';
import {
  adjustmentWayNames,
  handWayAsks,
  isHandWay,
  type AdjustmentWay,
  type HandWay,
} from '@/core/device/adjustmentWay';
import { procedureOf } from '@/core/procedure/procedures';
import { formatDifference } from '@/core/quantity/format';
import { newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { NumberField } from '../shared/NumberField';
import { ProblemNote } from '../shared/ProblemNote';
import { gloved } from '../shared/theme';

/** Takes out what the check found: told to the logger, laid over the record, or said of what hands did at the device. */
export function AdjustForm({
  check,
  by,
  guardReason,
  onChanged,
}: {
  check: CheckView;
  by: number;
  /** Why it may go beyond the guard; left out where it does not. */
  guardReason?: string;
  onChanged: () => void;
}) {
  const [chosen, setMode] = useState<AdjustmentWay | null>(null);
  const mode = chosen && check.ways.includes(chosen) ? chosen : (check.ways[0] ?? 'added');
  const adjust = useMutation({
    mutationFn: (byHand?: Adjust['byHand']) =>
      send<{ state: string; says: string | null }>(
        'POST',
        `/api/v1/stations/${check.stationId}/checks/${check.id}/adjustments`,
        {
          actionId: newId(),
          adjustmentId: newId(),
          by,
          mode,
          ...(byHand && { byHand }),
          ...(guardReason && { guardReason }),
          occurredAt: nowText(),
        } satisfies Adjust,
      ),
    onSettled: onChanged,
  });
  // An offset does not serve, and nothing else is taken here.
  const isStuck = !check.offsetServes && check.ways.length === 0;
  const busy = adjust.isPending || check.pendingAction !== null;
  if (isStuck)
    return (
      <Typography>
        An offset cannot take this out: its points are off by different amounts. Clean the sensor and check it
        again; if it stays, renew what is worn, or leave it and close the check.
      </Typography>
    );
  const amount = `${formatDifference(by, check.plan.decimals)} ${check.unit}`;
  return (
    <Box sx={{ display: 'grid', gap: 1.5 }}>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'center' }}>
        {!isHandWay(mode) && (
          <Button variant="contained" sx={gloved} disabled={busy} onClick={() => adjust.mutate(undefined)}>
            {adjust.isPending
              ? 'Writing …'
              : check.plan.adjustIn === 'device'
                ? `Write ${amount} to the logger`
                : `Lay ${amount} over the record`}
          </Button>
        )}
        {check.plan.adjustIn === 'device' && (
          <TextField
            select
            size="medium"
            label="It takes it as"
            value={mode}
            onChange={(e) => setMode(e.target.value as AdjustmentWay)}
            sx={{ minWidth: 260 }}
          >
            {check.ways.map((way) => (
              <MenuItem key={way} value={way} sx={{ minHeight: 48 }}>
                {adjustmentWayNames[way]}
              </MenuItem>
            ))}
          </TextField>
        )}
      </Box>
      {isHandWay(mode) && <ByHand key={mode} way={mode} busy={busy} onSaid={(said) => adjust.mutate(said)} />}
      {adjust.data && adjust.data.state !== 'done' && (
        <Typography role="alert">
          <b>{adjust.data.state === 'unknown' ? 'Outcome unknown' : 'Not adjusted'}:</b> {adjust.data.says}
        </Typography>
      )}
      <ProblemNote error={adjust.error} />
    </Box>
  );
}

/** More than the guard at once: a reason first, then as any other. */
export function BeyondGuard({
  check,
  by,
  onChanged,
}: {
  check: CheckView;
  by: number;
  onChanged: () => void;
}) {
  const [reason, setReason] = useState<string | null>(null);
  const [words, setWords] = useState('');
  const reasons = procedureOf(check.plan.procedure).honestReasons ?? [];
  return (
    <Box component="section" aria-label="Beyond the guard" sx={{ display: 'grid', gap: 1.5 }}>
      <Typography>If another sample says the same: why is so much true at once?</Typography>
      <ToggleButtonGroup
        exclusive
        value={reason}
        onChange={(_, chosen: string | null) => setReason(chosen)}
        aria-label="Why it goes beyond the guard"
        sx={{ flexWrap: 'wrap' }}
      >
        {reasons.map((r) => (
          <ToggleButton key={r} value={r} sx={gloved}>
            {r}
          </ToggleButton>
        ))}
      </ToggleButtonGroup>
      {reason && (
        <>
          <TextField
            size="medium"
            label="More about it"
            value={words}
            onChange={(e) => setWords(e.target.value)}
            sx={{ maxWidth: 420 }}
          />
          <AdjustForm
            check={check}
            by={by}
            guardReason={words.trim() ? `${reason}: ${words.trim()}` : reason}
            onChanged={onChanged}
          />
        </>
      )}
    </Box>
  );
}

/** What hands do at the device, and what is kept of it. */
function ByHand({
  way,
  busy,
  onSaid,
}: {
  way: HandWay;
  busy: boolean;
  onSaid: (said: NonNullable<Adjust['byHand']>) => void;
}) {
  const [entered, setEntered] = useState<number | null>(null);
  const [before, setBefore] = useState<number | null>(null);
  const [after, setAfter] = useState<number | null>(null);
  const [minutes, setMinutes] = useState<number | null>(null);
  return (
    <Box component="section" aria-label="By hand at the device" sx={{ display: 'grid', gap: 1 }}>
      <Typography>{handWayAsks[way]}</Typography>
      <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <NumberField large label="Entered at the device" value={entered} onChange={setEntered} />
        <NumberField
          large
          label="It held before"
          value={before}
          help="empty: it does not say"
          onChange={setBefore}
        />
        <NumberField
          large
          label="It holds now"
          value={after}
          help="empty: it does not say"
          onChange={setAfter}
        />
        <NumberField
          large
          label="Works on itself for, min"
          value={minutes}
          low={0}
          high={120}
          help="empty: done at once"
          onChange={setMinutes}
        />
        <Button
          variant="contained"
          sx={gloved}
          disabled={busy || entered === null}
          onClick={() =>
            entered !== null && onSaid({ entered, before, after, ...(minutes && { runsFor: 60 * minutes }) })
          }
        >
          I have entered it
        </Button>
      </Box>
    </Box>
  );
}
