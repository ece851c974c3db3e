import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TableCell from '@mui/material/TableCell';
import TableRow from '@mui/material/TableRow';
import PageLink from '../shared/PageLink';
import { useState, type ReactNode } from 'react';
import type { SmallTraceView, VerifyRowView } from '@/contract/recordViews';
import { formatDifference, formatValue } from '@/core/quantity/format';
import type { StandingWord } from '@/core/trust/finding';
import { Age } from '../shared/Age';
import { SmallTrace } from '../shared/SmallTrace';
import { StateMark } from '../shared/stateMark';

const dayMs = 86_400_000;

/** Where in the trace a row leads: about the place that matters, or the newest week. */
export function placeInTrace(r: VerifyRowView): string {
  const newest = r.lastAt ? Date.parse(r.lastAt) : Date.now();
  const [from, until] =
    r.placeAt === null ? [newest - 7 * dayMs, newest] : [r.placeAt - dayMs, r.placeAt + 2 * dayMs];
  return `/stations/${r.stationId}/trace/${r.channelId}?from=${new Date(from).toISOString()}&until=${new Date(until).toISOString()}`;
}

/** A word for a channel as a shape. */
export const stateOf = (word: StandingWord) =>
  word === 'good'
    ? 'sound'
    : ['unchecked', 'empty', 'unused', 'not set up'].includes(word)
      ? 'missing'
      : 'displaced';

interface Props {
  readonly row: VerifyRowView;
  readonly trace: SmallTraceView | undefined;
  readonly index: number;
  readonly current: boolean;
}

/** A channel as a row of the table. */
export function VerifyRow({ row: r, trace, index, current }: Props) {
  const cells = cellsOf(r);
  return (
    <TableRow
      id={`row-${index}`}
      sx={{ bgcolor: current ? 'ground.skyWash' : undefined }}
      aria-current={current || undefined}
    >
      <TableCell sx={{ whiteSpace: 'nowrap' }}>
        <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
          <StateMark state={stateOf(r.word)} />
          <b>{r.word}</b>
        </Box>
      </TableCell>
      <TableCell sx={{ minWidth: 170 }}>
        <Link component={PageLink} href={placeInTrace(r)} sx={{ color: 'text.primary', fontWeight: 600 }}>
          {r.name}
        </Link>
        <Box sx={{ color: 'text.secondary', fontSize: '0.82rem', whiteSpace: 'nowrap' }}>
          {r.stationCode} · {r.site}
        </Box>
      </TableCell>
      <TableCell sx={{ minWidth: 150 }}>{r.reason}</TableCell>
      <TableCell>
        <SmallTrace trace={trace} width={110} />
      </TableCell>
      {cells.map(({ label, value, beyond }) => (
        <TableCell
          key={label}
          align={label === 'Approved' ? 'left' : 'right'}
          sx={{ whiteSpace: label === 'Approved' ? 'normal' : 'nowrap', fontWeight: beyond ? 700 : 400 }}
        >
          {value}
        </TableCell>
      ))}
    </TableRow>
  );
}

/** The same on a phone: what it is and how it stands; the numbers unfold. */
export function FoldedRow({ row: r, trace, index, current }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <Box
      component="li"
      id={`row-${index}`}
      sx={{ py: 1, borderBottom: 1, borderColor: 'divider', bgcolor: current ? 'ground.skyWash' : undefined }}
    >
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'flex-start' }}>
        <Box sx={{ pt: '3px' }}>
          <StateMark state={stateOf(r.word)} />
        </Box>
        <Box sx={{ flexGrow: 1, minWidth: 0 }}>
          <Link component={PageLink} href={placeInTrace(r)} sx={{ color: 'text.primary', fontWeight: 600 }}>
            {r.name}
          </Link>
          <Box sx={{ color: 'text.secondary', fontSize: '0.82rem' }}>
            {r.stationCode} · {r.site}
          </Box>
        </Box>
        <SmallTrace trace={trace} />
      </Box>
      <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
        <Box sx={{ flexGrow: 1 }}>
          <b>{r.word}</b> {r.reason !== r.word && r.reason}
        </Box>
        <Button
          size="small"
          variant="text"
          aria-expanded={open}
          aria-label={`${open ? 'Fewer' : 'More'} numbers of ${r.name}`}
          onClick={() => setOpen(!open)}
          sx={{ minHeight: 48 }}
        >
          {open ? 'less' : 'more'}
        </Button>
      </Box>
      {open && (
        <Box component="dl" sx={{ m: 0, display: 'grid', gridTemplateColumns: 'auto 1fr', columnGap: 2 }}>
          {cellsOf(r).map(({ label, value, beyond }) => (
            <Box
              key={label}
              sx={{ display: 'contents', '& dt': { color: 'text.secondary' }, '& dd': { m: 0 } }}
            >
              <dt>{label}</dt>
              <Box component="dd" sx={{ fontWeight: beyond ? 700 : 400 }}>
                {value}
              </Box>
            </Box>
          ))}
        </Box>
      )}
    </Box>
  );
}

interface Cell {
  readonly label: string;
  readonly value: ReactNode;
  /** Beyond its limit: set in bold. */
  readonly beyond?: boolean;
}

/** The numbers of a channel, in the order of the table's columns. */
function cellsOf(r: VerifyRowView): readonly Cell[] {
  const beyond = (value: number | null, limit: number | null) =>
    value !== null && limit !== null && Math.abs(value) > limit;
  const d = r.decimals;
  const ofLimit = (value: number | null, limit: number | null) =>
    value === null ? (
      '–'
    ) : (
      <>
        {formatDifference(value, d)}
        <Box component="span" sx={{ color: 'text.secondary', fontWeight: 400 }}>
          {' '}
          of ±{formatValue(limit, d)}
        </Box>
      </>
    );
  return [
    {
      label: 'Last value',
      value: (
        <>
          {formatValue(r.lastValue, d)} {r.lastValue !== null && r.unit}
          <Box sx={{ color: 'text.secondary', fontSize: '0.82rem' }}>
            {r.lastAt ? <Age at={r.lastAt} /> : 'never'}
          </Box>
        </>
      ),
    },
    {
      label: 'Last difference',
      value: ofLimit(r.difference, r.differenceLimit),
      beyond: beyond(r.difference, r.differenceLimit),
    },
    { label: 'Missing', value: r.missing || '–' },
    {
      label: 'Flagged',
      value:
        r.failed + r.suspect === 0 ? (
          '–'
        ) : (
          <>
            {r.failed > 0 && <div>{r.failed} failed</div>}
            {r.suspect > 0 && <div>{r.suspect} suspect</div>}
          </>
        ),
    },
    {
      label: 'Twin',
      value: ofLimit(r.twinDifference, r.twinLimit),
      beyond: beyond(r.twinDifference, r.twinLimit),
    },
    {
      label: 'Clock',
      value: r.clockDifference === null ? '–' : `${formatDifference(r.clockDifference, 0)} s`,
    },
    {
      label: 'Approved',
      value: r.approved ? (
        <>
          {r.approved.initials}, until {r.approved.until.slice(0, 10)}
          {r.approved.reopened && (
            <Box sx={{ fontWeight: 600 }} title={r.approved.reopened}>
              reopened
            </Box>
          )}
        </>
      ) : (
        '–'
      ),
    },
  ];
}
