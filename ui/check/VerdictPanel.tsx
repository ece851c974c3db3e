'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import type { CheckView } from '@/contract/checkViews';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { limitNames } from '@/core/settings/limits';
import { send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { StateMark } from '../shared/stateMark';
import { AdjustForm, BeyondGuard } from './AdjustForm';
import { PointsTable } from './PointsTable';
import { judgedOf, standing, verdictWords } from './verdictWords';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';

/** What the check says, in one size of type whatever it says, and the one next step. */
export function VerdictPanel({
  check,
  waits,
  onChanged,
}: {
  check: CheckView;
  /** Something of it is on this device only: the server decides nothing before it has that. */
  waits: boolean;
  onChanged: () => void;
}) {
  const mayMeasure = useMay('measure');
  const words = verdictWords(check);
  if (!words) return null;
  const open = check.outcome === null && mayMeasure && !waits;
  const by = check.proposed;
  const d = check.plan.decimals;
  return (
    <Box
      role="status"
      aria-label="Verdict"
      sx={{
        p: 2,
        border: 2,
        borderColor: words.good ? 'secondary.main' : 'text.primary',
        bgcolor: words.good ? 'ground.lichenWash' : 'background.paper',
        display: 'grid',
        alignContent: 'start',
        gap: 1.5,
      }}
    >
      <Box sx={{ display: 'flex', gap: 1.5, alignItems: 'center' }}>
        <StateMark state={words.good ? 'sound' : 'displaced'} size={32} />
        <Typography component="p" sx={{ fontSize: '1.7rem', fontWeight: 700, lineHeight: 1.2 }}>
          {words.title}
        </Typography>
      </Box>
      <Typography>{words.body}</Typography>
      {notesOf(check).map((note) => (
        <Typography key={note}>{note}</Typography>
      ))}
      <PointsTable check={check} />
      {check.limit !== null && check.asFound !== null && (
        <Sum>
          |{formatDifference(check.asLeft ?? check.asFound, check.plan.decimals)}|{' '}
          {Math.abs(check.asLeft ?? check.asFound) <= check.limit ? '≤' : '>'}{' '}
          {formatValue(check.limit, check.plan.decimals)} {check.unit}
          {check.verdict?.kind === 'beyond-guard' && `, and > guard ${check.plan.guard}`}
        </Sum>
      )}
      {check.budget && check.asFound !== null && (
        <Sum>
          error found {formatDifference(check.asFound, check.plan.decimals)} ±{' '}
          {formatValue(check.budget.found.U, check.plan.decimals)} {check.unit} (95 %, without the sensor’s
          own tolerance)
        </Sum>
      )}
      {check.coefficients && (
        <Sum>
          corrected = {formatValue(check.coefficients.gain, 4)} × reading{' '}
          {formatDifference(check.coefficients.offset, d + 1).replace(/^([+−])/, '$1 ')} {check.unit}
        </Sum>
      )}
      {check.proved && check.verdict && check.verdict.kind !== 'not-settled' && (
        <Typography variant="body2">
          Proved {provedText(check)}. Outside it, this check says nothing.
        </Typography>
      )}
      {check.health.map((h) => (
        <Box key={h.name} sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
          <StateMark state={h.isGood ? 'sound' : 'displaced'} />
          <Typography>
            {h.name}{' '}
            <b>
              {formatValue(h.value, h.decimals)} {h.unit}
            </b>
            : {h.says}
          </Typography>
        </Box>
      ))}
      {open && by !== null && <AdjustForm check={check} by={by} onChanged={onChanged} />}
      {open && check.beyond !== null && <BeyondGuard check={check} by={check.beyond} onChanged={onChanged} />}
      {open && check.verdict && (standing(check) === 0 || check.convergence) && (
        <CloseButton check={check} onChanged={onChanged} primary={by === null} />
      )}
    </Box>
  );
}

/** "at 7.02 pH", "between 4.03 and 7.02 pH". */
function provedText({ proved, plan, unit }: CheckView): string {
  const [low, high] = [proved!.low, proved!.high].map((v) => formatValue(v, plan.decimals));
  return low === high ? `at ${low} ${unit}` : `between ${low} and ${high} ${unit}`;
}

/** What else has to be known before one acts on it. */
function notesOf(c: CheckView): string[] {
  const d = c.plan.decimals;
  const found = judgedOf(c);
  const isBrought = c.plan.procedure === 'one-air' && found.some((r) => r.compared?.how);
  return [
    ...(c.telling > 0 && c.telling < found.length
      ? [
          `${found.length} repeats were taken within the ${c.plan.sensorResponse} s that the sensor takes to answer: they say what ${c.telling === 1 ? 'one says' : `${c.telling} say`}.`,
        ]
      : []),
    ...(isBrought
      ? [
          'Sensor and reference hang at two temperatures. Bringing one to the other adds what both thermometers may be off: it can hardly decide. Better: both in one moving air.',
        ]
      : []),
    ...(c.proposed !== null && c.remainder !== null && c.plan.offsets
      ? [
          `The device takes steps of ${c.plan.offsets.step} ${c.unit}: with ${formatDifference(c.proposed, d)} about ${formatDifference(c.remainder, d)} ${c.unit} will stay. That belongs in the band, and is not chased.`,
        ]
      : []),
    ...(c.consequences && c.consequences.derived.length > 0
      ? [`With it changes what is derived from it: ${c.consequences.derived.join(', ')}.`]
      : []),
    ...(c.consequences?.crossed ?? []).map(
      ({ limit, value, isBeyond }) =>
        `With it the value ${isBeyond ? 'passes' : 'comes back within'} “${limitNames[limit]}”, ${formatValue(value, d)} ${c.unit}: what is switched or rung there, by logger or controller, happens at once. Its outputs in hand first where that matters.`,
    ),
    ...(c.fouling
      ? [
          `Cleaning changed it by ${formatDifference(c.fouling.value, d)}${c.fouling.doubt === null ? '' : ` ± ${formatValue(c.fouling.doubt, d)}`} ${c.unit}${c.fouling.doubt !== null && Math.abs(c.fouling.value) <= c.fouling.doubt ? ': no more than chance.' : ': fouling, which lies in the record since the last visit; Verify proposes to take it out with the drift.'} What is judged here is what is left after it.`,
        ]
      : []),
    ...(c.taken?.kind === 'otherwise'
      ? [
          `The device did not take the offset as it was given: the difference changed by ${formatDifference(c.taken.change, d)} ± ${formatValue(c.taken.doubt, d)} ${c.unit}, about ${Math.round(100 * c.taken.share)} % of it. Read its offset back before adjusting again.`,
        ]
      : []),
    ...(c.taken?.kind === 'taken'
      ? [
          `The device took the offset: the difference changed by ${formatDifference(c.taken.change, d)} ± ${formatValue(c.taken.doubt, d)} ${c.unit}.`,
        ]
      : []),
  ];
}

function CloseButton({
  check,
  onChanged,
  primary,
}: {
  check: CheckView;
  onChanged: () => void;
  primary: boolean;
}) {
  const close = useMutation({
    mutationFn: () =>
      send('POST', `/api/v1/stations/${check.stationId}/checks/${check.id}/close`, {
        abandon: false,
        occurredAt: nowText(),
      }),
    onSuccess: onChanged,
  });
  return (
    <Box>
      <Button
        variant={primary ? 'contained' : 'outlined'}
        sx={gloved}
        disabled={close.isPending}
        onClick={() => close.mutate()}
      >
        {primary ? 'Close the check' : 'Close without adjusting'}
      </Button>
      <ProblemNote error={close.error} />
    </Box>
  );
}
