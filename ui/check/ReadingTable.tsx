'use client';

import Button from '@mui/material/Button';
import Box from '@mui/material/Box';
import Table from '@mui/material/Table';
import TableBody from '@mui/material/TableBody';
import TableCell from '@mui/material/TableCell';
import TableHead from '@mui/material/TableHead';
import TableRow from '@mui/material/TableRow';
import { useMutation } from '@tanstack/react-query';
import type { CheckReadingView, CheckView } from '@/contract/checkViews';
import { referenceRests } from '@/core/check/referenceRest';
import { mean } from '@/core/check/uncertainty';
import { procedureOf } from '@/core/procedure/procedures';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { send } from '../shared/api';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { clockText, timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';
import { besideOf } from './companions';

/** Every reading with its sum; excluded ones stay, struck out, with their reason. */
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
  const { plan } = check;
  const d = plan.decimals;
  const { against, isLate } = procedureOf(plan.procedure);
  const comparesAs = readings.some((r) => r.compared?.how || r.compared?.facts.length);
  const frozen =
    check.outcome !== null || (check.adjustments.length > 0 && readings[0]?.phase === 'as-found');
  return (
    <Box sx={{ overflowX: 'auto' }}>
      <Table size="small" sx={{ '& td': { whiteSpace: 'nowrap', verticalAlign: 'top' } }}>
        <TableHead>
          <TableRow>
            <TableCell>
              Time{readings[0] && ` (${timeText(readings[0].occurredAt, zone).slice(-6)})`}
            </TableCell>
            {plan.points.length > 0 && <TableCell>In</TableCell>}
            <TableCell align="right">Sensor</TableCell>
            {against === 'instrument' && <TableCell align="right">Reference</TableCell>}
            {comparesAs && <TableCell align="right">Compared as</TableCell>}
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
              {plan.points.length > 0 && (
                <TableCell>{plan.points.find((p) => p.key === r.point)?.name}</TableCell>
              )}
              <TableCell align="right">
                {formatValue(r.sensorValue, d)}
                <Read
                  check={check}
                  reading={r}
                  of={['sensor', ...(against === 'instrument' ? [] : ['place', 'reference'])]}
                />
              </TableCell>
              {against === 'instrument' && (
                <TableCell align="right">
                  {shownReference(r, d)}
                  <Read check={check} reading={r} of={['reference', 'place']} />
                </TableCell>
              )}
              {comparesAs && (
                <TableCell align="right">
                  {formatValue(r.compared?.reference, d)}
                  <Box sx={{ color: 'text.secondary' }}>{r.compared && (r.compared.how ?? 'as read')}</Box>
                  {r.compared?.facts.map((f) => (
                    <Box key={f.name} sx={{ color: 'text.secondary' }}>
                      {f.name} {formatValue(f.value, f.decimals)} {f.unit}
                    </Box>
                  ))}
                </TableCell>
              )}
              <TableCell>
                {r.compared ? (
                  <>
                    <Sum>{r.compared.sum}</Sum> <b>{check.unit}</b>
                  </>
                ) : isLate ? (
                  'still to come'
                ) : (
                  '–'
                )}
              </TableCell>
              <TableCell>
                {r.excludedReason ?? restText(r, d)}
                {r.afterCleaning && <Box>cleaned</Box>}
                {!referenceRests(r.reference) && <Box>reference still moved</Box>}
              </TableCell>
              <TableCell>
                {mayMeasure && !frozen && !r.excludedReason && (
                  <Button
                    size="small"
                    disabled={exclude.isPending}
                    onClick={() => exclude.mutate(r.id)}
                    aria-label={`Take back the reading of ${r.compared ? formatDifference(r.compared.difference, d) : formatValue(r.sensorValue, d)}`}
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

/** The reference as it read, or the mean of what it read. */
function shownReference(r: CheckReadingView, decimals: number): string {
  const counted = r.references.filter((x) => !x.excludedReason).map((x) => x.value);
  return counted.length > 0 ? formatValue(mean(counted), decimals) : '–';
}

function restText({ settling }: CheckReadingView, decimals: number): string {
  switch (settling.state) {
    case 'said':
      return 'typed, said to stand still';
    case 'averaged':
      return `averaged over ${settling.window} s`;
    case 'moving':
      return settling.projected ? `moving, to ${formatValue(settling.projected.final, decimals)}` : 'moving';
    default:
      return settling.state;
  }
}

/** What was read beside it, where it was read. */
function Read({
  check,
  reading,
  of,
}: {
  check: CheckView;
  reading: CheckReadingView;
  of: readonly string[];
}) {
  return besideOf(check.plan)
    .filter(({ spec }) => of.includes(spec.of))
    .map(({ key, spec }) => {
      const read = reading.companions.find((c) => c.key === key);
      return read ? (
        <Box key={key} sx={{ color: 'text.secondary' }}>
          {spec.unit === '°C' ? '' : `${spec.name} `}
          {formatValue(read.value, spec.decimals)} {spec.unit}
        </Box>
      ) : null;
    });
}
