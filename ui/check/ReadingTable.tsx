'use client';

import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation } from '@tanstack/react-query';
import type { CheckReadingView, CheckView } from '@/contract/views';
import { frostPointOf } from '@/core/moistAir/humidity';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { clockText, timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';

/** Every captured pair with its sum; excluded ones stay, struck out, with their reason. */
export function ReadingTable({
  check,
  readings,
  onChanged,
}: {
  check: CheckView;
  readings: readonly CheckReadingView[];
  onChanged: () => void;
}) {
  const { zone } = useStationBasics();
  const mayMeasure = useMay('measure');
  const exclude = useMutation({
    mutationFn: (id: string) =>
      send('POST', `/api/v1/stations/${check.stationId}/checks/${check.id}/readings/${id}/exclude`, {
        reason: 'taken back by the technician',
      }),
    onSuccess: onChanged,
  });
  const d = check.decimals;
  const humid = check.needsTemperature;
  const frozen =
    check.outcome !== null || (check.adjustments.length > 0 && readings[0]?.phase === 'as-found');
  return (
    <Box sx={{ overflowX: 'auto' }}>
      <Table size="small" sx={{ '& td': { whiteSpace: 'nowrap' } }}>
        <TableHead>
          <TableRow>
            <TableCell>
              Time{readings[0] && ` (${timeText(readings[0].occurredAt, zone).slice(-6)})`}
            </TableCell>
            <TableCell align="right">Sensor</TableCell>
            <TableCell align="right">Reference</TableCell>
            {humid && (
              <>
                <TableCell align="right">Compared as</TableCell>
                <TableCell align="right">Dew points</TableCell>
              </>
            )}
            <TableCell>Sensor − reference</TableCell>
            <TableCell>Was it</TableCell>
            <TableCell />
          </TableRow>
        </TableHead>
        <TableBody>
          {readings.map((r) => (
            <TableRow
              key={r.id}
              sx={
                r.excludedReason
                  ? { '& td': { textDecoration: 'line-through', color: 'text.secondary' } }
                  : undefined
              }
            >
              <TableCell>{clockText(r.occurredAt, zone)}</TableCell>
              <TableCell align="right">
                {formatValue(r.sensorValue, d)}
                {humid && (
                  <Box sx={{ color: 'text.secondary' }}>{formatValue(r.sensorTemperature, 2)} °C</Box>
                )}
              </TableCell>
              <TableCell align="right">
                {formatValue(r.referenceValue, d)}
                {humid && (
                  <Box sx={{ color: 'text.secondary' }}>{formatValue(r.referenceTemperature, 2)} °C</Box>
                )}
              </TableCell>
              {humid && (
                <>
                  <TableCell align="right">
                    {formatValue(r.referenceAtSensor, d)}
                    <Box sx={{ color: 'text.secondary' }}>
                      {r.inOneAir ? 'in one air, as read' : 'brought to the sensor’s °C'}
                    </Box>
                  </TableCell>
                  <TableCell align="right">
                    {formatValue(r.sensorDewPoint, 1)} / {formatValue(r.referenceDewPoint, 1)} °C
                    <FrostPoints sensor={r.sensorDewPoint} reference={r.referenceDewPoint} />
                  </TableCell>
                </>
              )}
              <TableCell>
                <Sum>{r.sum}</Sum> <b>{check.unit}</b>
              </TableCell>
              <TableCell>
                {r.excludedReason ??
                  (r.settling.state === 'said' ? 'typed, said to stand still' : r.settling.state)}
                {r.settling.state === 'moving' && r.settling.projected
                  ? `, to ${formatValue(r.settling.projected.final, d)}`
                  : ''}
              </TableCell>
              <TableCell>
                {mayMeasure && !frozen && !r.excludedReason && (
                  <Button
                    size="small"
                    disabled={exclude.isPending}
                    onClick={() => exclude.mutate(r.id)}
                    aria-label={`Take back the reading of ${formatDifference(r.difference, d)}`}
                  >
                    Take back
                  </Button>
                )}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      <ProblemNote error={exclude.error} />
    </Box>
  );
}

/** Below 0 °C a dew point is one over water; frost forms at another temperature. */
function FrostPoints({ sensor, reference }: { sensor: number | null; reference: number | null }) {
  const [atSensor, atReference] = [sensor, reference].map((dew) =>
    dew === null || dew < -45 ? null : frostPointOf(dew),
  );
  if (atSensor == null && atReference == null) return null;
  return (
    <Box sx={{ color: 'text.secondary' }}>
      over water; frost points {formatValue(atSensor ?? null, 1)} / {formatValue(atReference ?? null, 1)} °C
      over ice
    </Box>
  );
}
