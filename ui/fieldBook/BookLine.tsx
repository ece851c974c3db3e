'use client';

import Box from '@mui/material/Box';
import Link from '@mui/material/Link';
import PageLink from '../shared/PageLink';
import type { FieldBookLineView } from '@/contract/views';
import { worthTelling } from '@/core/clock/deviceClock';
import { formatAge } from '@/core/quantity/format';
import { MarginLine } from '../shared/MarginLine';
import { Sum } from '../shared/Sum';
import { timeText } from '../shared/time';

const marks: Readonly<Record<string, string>> = {
  note: '✎',
  check: '⇄',
  adjust: '±',
  talk: '⇌',
  write: '▸',
  stage: '▹',
  connect: '⌁',
  collect: '⇩',
  import: '⇊',
  clock: '◔',
  verify: '✓',
  'off-line': '⊘',
  visit: '⌂',
  checklist: '☑',
  signed: '✍',
  photograph: '▣',
  handheld: '◫',
};

/** One line of the field book: when, who, what, and the sum that was done. */
export function BookLine({
  line,
  station = false,
  page = null,
}: {
  line: FieldBookLineView;
  station?: boolean;
  /** The visit whose page begins here. */
  page?: string | null;
}) {
  const late = Date.parse(line.recordedAt) - Date.parse(line.occurredAt) > 5 * 60_000;
  return (
    <MarginLine
      mark={marks[line.kind] ?? '·'}
      margin={
        <>
          <time dateTime={line.occurredAt}>{timeText(line.occurredAt, line.zone)}</time> · {line.initials}
          {station && <> · {line.stationCode}</>}
          {page && (
            <>
              {' · '}
              <Link component={PageLink} href={`/stations/${line.stationId}/visits/${page}`} color="inherit">
                page
              </Link>
            </>
          )}
          {late && <Box>recorded {timeText(line.recordedAt, line.zone)}</Box>}
          {line.deviceAhead !== null && Math.abs(line.deviceAhead) > worthTelling && (
            <Box>
              device {formatAge(Math.abs(line.deviceAhead))} {line.deviceAhead > 0 ? 'ahead' : 'behind'},
              corrected
            </Box>
          )}
        </>
      }
    >
      {line.text}
      {line.sum && (
        <Box>
          <Sum>{line.sum}</Sum>
        </Box>
      )}
    </MarginLine>
  );
}
