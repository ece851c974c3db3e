import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import { memo } from 'react';
import type { DischargeView } from '@/contract/discharge';
import { allTogether, isBeside } from '@/core/discharge/agreement';
import { sheetNames } from '@/core/discharge/gaugingSheet';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { useMay } from '../shared/person';
import { StateMark } from '../shared/stateMark';
import { Sum } from '../shared/Sum';
import { timeText } from '../shared/time';
import { GaugingBack } from './GaugingBack';
import type { Beside } from './gauged';

/** So unlikely a run of signs is said, share of chance. */
const telling = 0.05;

/** Each gauging beside the curve, and all of them together. */
export const Gaugings = memo(function Gaugings({
  view,
  beside,
  onChanged,
}: {
  view: DischargeView;
  beside: readonly Beside[];
  onChanged: () => Promise<void>;
}) {
  const may = useMay('measure');
  const known = beside.flatMap((b) => (b.k ? [{ share: b.k.share, U: b.k.U }] : []));
  const all = known.length > 0 ? allTogether(known) : null;
  const percent = (share: number) => `${formatDifference(100 * share, 1)} %`;
  return (
    <Box component="section" aria-labelledby="gaugings" sx={{ mt: 3, overflowX: 'auto' }}>
      <Typography variant="h2" id="gaugings">
        Gaugings beside the curve
      </Typography>
      {beside.length === 0 && <Typography>None yet: the curve rests on its rule alone.</Typography>}
      {all && (
        <Box
          role="status"
          aria-label="All gaugings"
          sx={{ display: 'flex', gap: 1, alignItems: 'center', my: 1, flexWrap: 'wrap' }}
        >
          <StateMark state={isBeside(all) ? 'displaced' : 'sound'} size={26} />
          <Typography sx={{ fontSize: '1.15rem', fontWeight: 600 }}>
            {all.n === 1 ? 'One gauging' : `${all.n} gaugings together`}: {percent(all.share)} ±{' '}
            {formatValue(100 * all.U, 1)} %: {isBeside(all) ? 'lead the curve' : 'leave the curve alone'}
          </Typography>
          {all.n > 3 && all.chance <= telling && (
            <Typography>
              {Math.max(all.above, all.below)} of {all.n} lie on one side: by chance once in{' '}
              {Math.round(1 / all.chance)}.
            </Typography>
          )}
        </Box>
      )}
      {beside.length > 0 && (
        <Table size="small" sx={{ minWidth: 1080 }}>
          <TableHead>
            <TableRow>
              {[
                'Gauging',
                'Discharge, m³/s',
                'Level, m',
                'Velocity, m/s',
                'k',
                'Beside the curve',
                'Alone it says',
              ].map((h) => (
                <TableCell key={h}>{h}</TableCell>
              ))}
              {may && <TableCell />}
            </TableRow>
          </TableHead>
          <TableBody>
            {beside.map((b) => (
              <TableRow key={b.gauging.id} sx={{ verticalAlign: 'top' }}>
                <TableCell>
                  {timeText(b.gauging.begunAt, view.zone).slice(0, 16)}, {sheetNames[b.gauging.sheet.kind]}
                  <div>
                    <Sum>{b.sum}</Sum>
                  </div>
                </TableCell>
                <TableCell>
                  {formatValue(b.discharge, 3)} ± {formatValue(100 * b.dischargeU, 1)} %
                </TableCell>
                <TableCell>
                  {formatValue(b.gauging.level, 3)}
                  <div>
                    <Sum>{formatDifference(b.gauging.levelChange, 3)} meanwhile</Sum>
                  </div>
                </TableCell>
                <TableCell>
                  {b.gauging.velocity === null ? '–' : formatValue(b.gauging.velocity, 3)}
                </TableCell>
                <TableCell>
                  {b.k
                    ? `${formatValue(b.k.value, 3)} ± ${formatValue(100 * b.k.U, 1)} %`
                    : 'outside the section, or without a velocity'}
                </TableCell>
                <TableCell>{b.k && `${percent(b.k.share)} of ${formatValue(b.k.curve, 3)}`}</TableCell>
                <TableCell>
                  {b.k && (
                    <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
                      <StateMark state={isBeside({ share: b.k.share, U: b.k.U }) ? 'displaced' : 'sound'} />
                      {isBeside({ share: b.k.share, U: b.k.U }) ? 'the curve is off' : 'leave it'}
                    </Box>
                  )}
                </TableCell>
                <GaugingBack view={view} id={b.gauging.id} onChanged={onChanged} />
              </TableRow>
            ))}
          </TableBody>
        </Table>
      )}
    </Box>
  );
});
