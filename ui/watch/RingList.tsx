'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { ChannelWatchView } from '@/contract/watch';
import { formatAge, formatValue } from '@/core/quantity/format';
import { alarmLoad, compareRings, type Rehearsal, type RehearsedRing } from '@/core/watch/rehearse';
import { levelNames } from '@/core/watch/rule';
import { causeNames } from '@/core/watch/says';
import type { WhyMissed } from '@/core/watch/watcher';
import { timeText } from '../shared/time';

const whyMissed: Readonly<Record<WhyMissed, string>> = {
  short: 'was over before its delay',
  late: 'arrived too late to ring',
  'off-line': 'while its sensor was off-line',
  hours: 'outside the hours of the limit',
  gate: 'while what it depends on did not hold',
};

const loadWords = {
  acceptable: 'acceptable for one person',
  manageable: 'manageable for one person',
  'too many': 'more than one person can answer',
} as const;

/** Rings in a month to a digit that means something. */
export const perMonthText = (n: number): string => formatValue(n, n < 10 ? 1 : 0);

/** What a rule would have done: the honest headline, its rings, what it missed, and how it differs from the rule in force. */
export function RingList({
  view,
  draft,
  inForce,
  picked,
  onPick,
}: {
  view: ChannelWatchView;
  draft: Rehearsal;
  inForce: Rehearsal | null;
  picked: number | null;
  onPick: (ring: number | null) => void;
}) {
  const [all, setAll] = useState(false);
  const { rings } = draft;
  const doubted = rings.filter((r) => r.doubt).length;
  const compared = inForce && compareRings(inForce.rings, rings);
  const load = alarmLoad(draft.ringsPerMonth, draft.mostInTenMinutes);
  const deepest = draft.missed[0];
  const shown = all ? rings.map((_, i) => i) : rings.map((_, i) => i).slice(-12);
  return (
    <Box component="section" aria-label="What it would have done">
      <Typography sx={{ fontSize: '1.5rem', fontWeight: 600 }} role="status">
        {perMonthText(draft.ringsPerMonth)} rings a month
      </Typography>
      <Typography variant="body2">
        {rings.length} in {draft.readings} values, ringing {formatValue(100 * draft.share, 1)} % of the time
        {doubted > 0 && `; ${doubted} of them on values that are flagged or off-line`}. Most within ten
        minutes: {draft.mostInTenMinutes}: {loadWords[load]}, from this channel alone.
      </Typography>
      {compared && (
        <Typography variant="body2">
          Beside the rule in force ({perMonthText(inForce.ringsPerMonth)} a month): {compared.both} ring in
          both, {compared.onlyB} only as tried, {compared.onlyA} no more.
        </Typography>
      )}
      <Typography variant="body2">
        {deepest
          ? `Missed ${draft.missedCount}; the deepest ${formatValue(deepest.peak, view.decimals)} ${view.unit} (${formatValue(deepest.depth, view.decimals)} beyond its limit) at ${timeText(deepest.from, view.zone)}: ${whyMissed[deepest.why]}.`
          : 'Nothing beyond a limit went without a ring.'}
      </Typography>
      <Box sx={{ overflowX: 'auto', mt: 1, display: rings.length === 0 ? 'none' : undefined }}>
        <Box
          component="table"
          sx={{
            borderCollapse: 'collapse',
            minWidth: 560,
            '& td, & th': { px: 1, py: 0.25, textAlign: 'left', borderTop: 1, borderColor: 'divider' },
          }}
        >
          <thead>
            <tr>
              <th>Rang ({timeText(rings.at(-1)?.raised ?? 0, view.zone).slice(-6)})</th>
              <th>What</th>
              <th>Furthest</th>
              <th>For</th>
              <th>Heard after</th>
            </tr>
          </thead>
          <tbody>
            {shown.map((i) => (
              <RingRow
                key={i}
                ring={rings[i]!}
                view={view}
                isPicked={picked === i}
                onPick={() => onPick(picked === i ? null : i)}
              />
            ))}
          </tbody>
        </Box>
      </Box>
      {rings.length > 12 && (
        <Button size="small" onClick={() => setAll(!all)}>
          {all ? 'The last twelve' : `All ${rings.length}`}
        </Button>
      )}
    </Box>
  );
}

function RingRow({
  ring,
  view,
  isPicked,
  onPick,
}: {
  ring: RehearsedRing;
  view: ChannelWatchView;
  isPicked: boolean;
  onPick: () => void;
}) {
  const lasts = ring.returned === null ? null : (ring.returned - ring.raised) / 1000;
  return (
    <tr style={isPicked ? { background: 'var(--mui-palette-ground-skyWash)' } : undefined}>
      <td>
        <Button
          size="small"
          variant="text"
          aria-pressed={isPicked}
          sx={{ p: 0, minWidth: 0, whiteSpace: 'nowrap' }}
          onClick={onPick}
        >
          {timeText(ring.raised, view.zone).slice(0, 16)}
        </Button>
      </td>
      <td>
        {ring.cause === 'limits' ? levelNames[ring.worst] : causeNames[ring.cause].toLowerCase()}
        {ring.doubt && ` (${ring.doubt})`}
      </td>
      <td>{ring.peak === null ? '–' : `${formatValue(ring.peak, view.decimals)} ${view.unit}`}</td>
      <td>{lasts === null ? 'still' : formatAge(lasts)}</td>
      <td>{formatAge((ring.raised - ring.began) / 1000)}</td>
    </tr>
  );
}
