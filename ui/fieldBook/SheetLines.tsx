import Box from '@mui/material/Box';
import { DateTime } from 'luxon';
import type { FieldBookLineView } from '@/contract/views';
import { Sum } from '../shared/Sum';
import { sheetCell } from '../shared/sheet';

/** Lines as on a page of a field book: the day once, times and initials in the margin, sums in full. */
export function SheetLines({
  lines,
  zone,
  dated = false,
}: {
  lines: readonly FieldBookLineView[];
  zone: string;
  /** Each with its day, as additions are. */
  dated?: boolean;
}) {
  return (
    <Box component="table">
      <tbody>
        {lines.map((l) => (
          <tr key={l.id}>
            <Box
              component="td"
              sx={{ ...sheetCell, width: dated ? 170 : 110, verticalAlign: 'top', whiteSpace: 'nowrap' }}
            >
              <time dateTime={l.occurredAt}>
                {DateTime.fromISO(l.occurredAt)
                  .setZone(zone)
                  .toFormat(dated ? 'yyyy-MM-dd HH:mm ZZ' : 'HH:mm:ss')}
              </time>{' '}
              {l.initials}
            </Box>
            <Box component="td" sx={{ ...sheetCell, overflowWrap: 'anywhere' }}>
              {l.text}
              {l.sum && (
                <div>
                  <Sum>{l.sum}</Sum>
                </div>
              )}
            </Box>
          </tr>
        ))}
      </tbody>
    </Box>
  );
}
