import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import type { WaterView } from '@/contract/water';
import { formatDifference, formatValue } from '@/core/quantity/format';
import type { ReducedSheet } from '@/core/water/levelling';

/** A levelling sheet as it was reduced. */
export function SheetTable({ view, reduced }: { view: Pick<WaterView, 'points'>; reduced: ReducedSheet }) {
  const nameOf = (point: string) => view.points.find((p) => p.id === point)?.code ?? point;
  const cell = (v: number | null, digits = 4) => (v === null ? '' : formatValue(v, digits));
  return (
    <Box sx={{ overflowX: 'auto' }}>
      <Table size="small" aria-label="Reduced sheet">
        <TableHead>
          <TableRow>
            {['Point', 'Back', 'Between', 'Fore', 'Line of sight', 'As read', 'Share', 'Elevation, m'].map(
              (h, i) => (
                <TableCell key={h} align={i === 0 ? 'left' : 'right'}>
                  {h}
                </TableCell>
              ),
            )}
          </TableRow>
        </TableHead>
        <TableBody>
          {reduced.rows.map((r, i) => (
            <TableRow key={i}>
              <TableCell>{nameOf(r.point)}</TableCell>
              <TableCell align="right">{cell(r.back)}</TableCell>
              <TableCell align="right">{cell(r.between)}</TableCell>
              <TableCell align="right">{cell(r.fore)}</TableCell>
              <TableCell align="right">{cell(r.sight)}</TableCell>
              <TableCell align="right">{cell(r.observed)}</TableCell>
              <TableCell align="right">{formatDifference(r.share, 4)}</TableCell>
              <TableCell align="right">
                <b>{cell(r.adjusted)}</b>
              </TableCell>
            </TableRow>
          ))}
          <TableRow>
            <TableCell>Σ</TableCell>
            <TableCell align="right">{cell(reduced.backs)}</TableCell>
            <TableCell />
            <TableCell align="right">{cell(reduced.fores)}</TableCell>
            <TableCell colSpan={4}>
              back − fore = {formatDifference(reduced.backs - reduced.fores, 4)} m
            </TableCell>
          </TableRow>
        </TableBody>
      </Table>
    </Box>
  );
}
