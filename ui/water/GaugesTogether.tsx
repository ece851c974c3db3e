import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import Typography from '@mui/material/Typography';
import type { LevelReadingView, WaterView } from '@/contract/water';
import { formatDifference } from '@/core/quantity/format';
import { compareGauges } from '@/core/water/gauges';
import { levelSum, type LevelRecord } from '@/core/water/levelSum';
import { StateMark } from '../shared/stateMark';

/** Gauges read at one visit beside one another, brought to one time by the record. */
export function GaugesTogether({
  view,
  record,
  readings,
}: {
  view: WaterView;
  record: LevelRecord;
  readings: readonly LevelReadingView[];
}) {
  const levels = readings
    .filter((r) => r.read.kind !== 'crest')
    .flatMap((r) => {
      const { level, accuracy } = levelSum(r, record);
      const point = view.points.find((p) => p.id === r.pointId);
      return level === null
        ? []
        : [{ name: point?.code ?? 'by hand', level, accuracy, logged: r.against?.value ?? null }];
    });
  // The newest of each gauge.
  const newest = levels.filter((l, i) => levels.findIndex((o) => o.name === l.name) === i);
  const pairs = compareGauges(newest);
  if (pairs.length === 0) return null;
  return (
    <Box component="section" aria-labelledby="together" sx={{ mt: 2, overflowX: 'auto' }}>
      <Typography variant="h3" id="together">
        Gauges beside one another
      </Typography>
      <Table size="small">
        <TableHead>
          <TableRow>
            <TableCell>Gauges</TableCell>
            <TableCell align="right">Difference, m</TableCell>
            <TableCell align="right">Both good to</TableCell>
            <TableCell>Says</TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {pairs.map((p) => (
            <TableRow key={`${p.one} ${p.other}`}>
              <TableCell>
                {p.one} − {p.other}
              </TableCell>
              <TableCell align="right">
                {formatDifference(p.difference, 3)}
                <Typography variant="caption" component="div" color="text.secondary">
                  {p.wentMeanwhile === null
                    ? 'no record to bring them to one time'
                    : `water went ${formatDifference(p.wentMeanwhile, 3)} meanwhile`}
                </Typography>
              </TableCell>
              <TableCell align="right">±{p.limit.toFixed(3)}</TableCell>
              <TableCell>
                <Box sx={{ display: 'flex', gap: 0.75, alignItems: 'center' }}>
                  <StateMark state={p.agree ? 'sound' : 'displaced'} />
                  {p.agree ? 'agree' : 'differ'}
                </Box>
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}
