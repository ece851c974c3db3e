'use client';

import Box from '@mui/material/Box';
import type { FieldBookLineView } from '@/contract/views';
import { worthTelling } from '@/core/clock/deviceClock';
import { formatAge } from '@/core/quantity/format';
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
};

/** One line of the field book: when, who, what, and the sum that was done. */
export function BookLine({ line, station = false }: { line: FieldBookLineView; station?: boolean }) {
  const late = Date.parse(line.recordedAt) - Date.parse(line.occurredAt) > 5 * 60_000;
  return (
    <Box
      component="article"
      sx={{
        display: 'grid',
        gridTemplateColumns: { xs: '24px 1fr', md: '24px 190px 1fr' },
        columnGap: 1.5,
        py: 0.75,
        borderBottom: 1,
        borderColor: 'divider',
      }}
    >
      <Box aria-hidden sx={{ color: 'primary.main', fontWeight: 700 }}>
        {marks[line.kind] ?? '·'}
      </Box>
      <Box sx={{ fontSize: '0.88rem', color: 'text.secondary', gridColumn: { xs: 2, md: 'auto' } }}>
        <time dateTime={line.occurredAt}>{timeText(line.occurredAt, line.zone)}</time> · {line.initials}
        {station && <> · {line.stationCode}</>}
        {late && <Box>recorded {timeText(line.recordedAt, line.zone)}</Box>}
        {line.deviceAhead !== null && Math.abs(line.deviceAhead) > worthTelling && (
          <Box>
            device {formatAge(Math.abs(line.deviceAhead))} {line.deviceAhead > 0 ? 'ahead' : 'behind'},
            corrected
          </Box>
        )}
      </Box>
      <Box sx={{ gridColumn: { xs: 2, md: 'auto' }, overflowWrap: 'anywhere' }}>
        {line.text}
        {line.sum && (
          <Box>
            <Sum>{line.sum}</Sum>
          </Box>
        )}
      </Box>
    </Box>
  );
}
