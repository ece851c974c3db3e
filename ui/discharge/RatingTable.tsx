import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { DischargeView, GaugingView } from '@/contract/discharge';
import { sheetNames } from '@/core/discharge/gaugingSheet';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { useMay } from '../shared/person';
import { Sum } from '../shared/Sum';
import { timeText } from '../shared/time';
import { GaugingBack } from './GaugingBack';

/** A gauging as a rating by level takes it. */
export interface Rated {
  readonly gauging: GaugingView;
  readonly level: number;
  readonly discharge: number;
  /** Expanded relative uncertainty, share. */
  readonly U: number;
  readonly sum: string;
}

/** Gaugings beside a rating by level. */
export function RatingTable({
  view,
  rated,
  residuals,
  onChanged,
}: {
  view: DischargeView;
  rated: readonly Rated[];
  residuals: readonly (number | null)[];
  onChanged: () => Promise<void>;
}) {
  const may = useMay('measure');
  if (rated.length === 0) return null;
  return (
    <Box sx={{ overflowX: 'auto', mt: 1 }}>
      <Table size="small" aria-label="Gaugings beside the rating">
        <TableHead>
          <TableRow>
            {['Gauging', 'Level, m', 'Discharge, m³/s', 'Beside the rating'].map((h) => (
              <TableCell key={h}>{h}</TableCell>
            ))}
            {may && <TableCell />}
          </TableRow>
        </TableHead>
        <TableBody>
          {rated.map((r, i) => (
            <TableRow key={r.gauging.id} sx={{ verticalAlign: 'top' }}>
              <TableCell>
                {timeText(r.gauging.begunAt, view.zone).slice(0, 16)}, {sheetNames[r.gauging.sheet.kind]}
                <div>
                  <Sum>{r.sum}</Sum>
                </div>
              </TableCell>
              <TableCell>{formatValue(r.level, 3)}</TableCell>
              <TableCell>
                {formatValue(r.discharge, 3)} ± {formatValue(100 * r.U, 1)} %
              </TableCell>
              <TableCell>
                {residuals[i] == null ? '' : `${formatDifference(100 * (Math.exp(residuals[i]) - 1), 1)} %`}
              </TableCell>
              <GaugingBack view={view} id={r.gauging.id} onChanged={onChanged} />
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}
