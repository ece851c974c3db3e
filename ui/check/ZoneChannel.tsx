'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import Typography from '@mui/material/Typography';
import { referenceRests } from '@/core/check/referenceRest';
import { atRest } from '@/core/check/settling';
import { decimalsOf, formatDifference, formatValue } from '@/core/quantity/format';
import type { Unit } from '@/core/quantity/unit';
import { Refusal } from '../shared/api';
import PageLink from '../shared/PageLink';
import { StateMark } from '../shared/stateMark';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';
import type { Held } from '../visit/held';
import { CaptureProblem } from './CaptureProblem';
import { HeldValues } from './HeldValues';
import { NumberWithUnit } from './NumberWithUnit';
import { referenceRestText } from './referenceRestOf';
import { stateWords } from './SettlingIndicator';
import { verdictWords } from './verdictWords';
import { besideReference, movedOf, takenOf, type ZoneRow } from './zoneReading';

/** One channel of a zone: what its sensor shows, what the reference shows, and what came of it so far. */
export function ZoneChannel({
  row,
  rows,
  held,
  problem,
  onTyped,
  onConfirm,
  onTakeBack,
}: {
  row: ZoneRow;
  rows: readonly ZoneRow[];
  held: readonly Held[];
  problem: Error | null;
  onTyped: (text: string, unit: Unit, heldId?: string) => void;
  onConfirm: () => void;
  onTakeBack: () => void;
}) {
  const { check, watch, settling, typed, unit } = row;
  const { plan } = check;
  const linked = watch.live?.instrument?.value ?? null;
  const shows = check.instrument?.quantities.find((q) => q.quantity === plan.quantity);
  // As many as the instrument's resolution carries.
  const digits = decimalsOf(shows?.resolution ?? 0.01);
  const { there, missing } = besideReference(row, rows);
  const words = takenOf(check) >= plan.repeats ? verdictWords(check) : null;
  const itself = `/stations/${check.stationId}/check/${check.id}`;
  const field = problem instanceof Refusal ? problem.problem.field : null;
  return (
    <Box
      role="group"
      aria-label={check.channelName}
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '1fr', sm: '1fr 1fr', md: '1fr 1.3fr 1.2fr' },
        gap: { xs: 1, md: 2 },
        alignItems: 'start',
        borderTop: 1,
        borderColor: 'divider',
        pt: 1.5,
      }}
    >
      <Box>
        <Typography color="text.secondary">{check.channelName}</Typography>
        <Typography component="p" sx={{ fontSize: '1.7rem', fontWeight: 700, lineHeight: 1.15 }}>
          {formatValue(watch.error ? null : watch.live?.value, plan.decimals)} {check.unit}
        </Typography>
        {watch.error ? (
          <Typography variant="body2">
            The logger cannot be asked just now.{' '}
            <Link component={PageLink} href={itself}>
              Type what its display says
            </Link>
          </Typography>
        ) : (
          <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
            <StateMark state={atRest(settling) ? 'sound' : 'displaced'} />
            {stateWords[settling.state]}
          </Box>
        )}
      </Box>
      <Box sx={{ display: 'grid', gap: 1 }}>
        <Box>
          <Typography color="text.secondary">
            {check.instrument?.name} {check.instrument?.serial}
          </Typography>
          {!referenceRests(row.reference) && (
            <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
              <StateMark state="displaced" />
              {referenceRestText(row.reference, check.unit, plan.decimals)}
            </Box>
          )}
          {linked !== null && typed === '' && (
            <Typography component="p" sx={{ fontSize: '1.7rem', fontWeight: 700, lineHeight: 1.15 }}>
              {formatValue(linked, digits)} {check.unit}
            </Typography>
          )}
        </Box>
        <NumberWithUnit
          label={linked === null ? 'It reads' : 'Or typed'}
          value={typed}
          onValue={(text) => onTyped(text, unit)}
          unit={unit}
          onUnit={(u) => onTyped(typed, u)}
          wrong={field === 'reference'}
        />
        {Object.values(there).map((v, i) => (
          <Typography key={i} variant="body2">
            at {v.value} {v.unit}, as read off the same instrument
          </Typography>
        ))}
        {missing.map(({ key, spec }) => (
          <Typography key={key} variant="body2">
            Waits for: {spec.name}
          </Typography>
        ))}
        <HeldValues held={held} unit={check.unit} onUse={(h) => onTyped(String(h.value), h.unit, h.id)} />
        <CaptureProblem
          error={problem}
          onConfirm={onConfirm}
          onMeant={(_, meant) => onTyped(String(meant.value), meant.unit)}
        />
      </Box>
      <Box sx={{ gridColumn: { sm: '1 / -1', md: 'auto' } }}>
        {words ? (
          <>
            <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start', fontWeight: 600 }}>
              <StateMark state={words.good ? 'sound' : 'displaced'} />
              {words.title}
            </Box>
            {!words.good && <Typography variant="body2">{words.body}</Typography>}
            {check.asFound !== null && check.limit !== null && (
              <Box>
                <Sum>
                  |{formatDifference(check.asFound, plan.decimals)}|{' '}
                  {Math.abs(check.asFound) <= check.limit ? '≤' : '>'}{' '}
                  {formatValue(check.limit, plan.decimals)} {check.unit}
                </Sum>
              </Box>
            )}
            {movedOf(check).length > 0 ? (
              <Button sx={gloved} onClick={onTakeBack}>
                Take back what moved
              </Button>
            ) : (
              <Link component={PageLink} href={itself}>
                {words.good ? 'Its sum' : 'Go on with it'}
              </Link>
            )}
          </>
        ) : (
          <Typography>
            {takenOf(check)} of {plan.repeats} read
          </Typography>
        )}
      </Box>
    </Box>
  );
}
