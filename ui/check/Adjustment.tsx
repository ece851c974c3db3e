'use client';

import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import type { UndoAdjustment } from '@/contract/requests';
import type { CheckView } from '@/contract/checkViews';
import { adjustmentWayNames } from '@/core/device/adjustmentWay';
import { formatDifference, formatValue } from '@/core/quantity/format';
import { newId, send } from '../shared/api';
import { nowText } from '../shared/deviceClock';
import { useMay } from '../shared/person';
import { ProblemNote } from '../shared/ProblemNote';
import { Sum } from '../shared/Sum';
import { gloved } from '../shared/theme';
import { timeText } from '../shared/time';
import { useStationBasics } from '../station/StationBasics';
import { ReadingTable } from './ReadingTable';

/** One adjustment: what was entered, what the device read then, which offset it took; and the way back. */
export function Adjustment({
  check: c,
  adjustment: a,
  running,
  onChanged,
}: {
  check: CheckView;
  adjustment: CheckView['adjustments'][number];
  running: boolean;
  onChanged: () => void;
}) {
  const { zone } = useStationBasics();
  const mayMeasure = useMay('measure');
  const undo = useMutation({
    mutationFn: () =>
      send<{ state: string; says: string | null }>(
        'POST',
        `/api/v1/stations/${c.stationId}/checks/${c.id}/undo`,
        {
          actionId: newId(),
          adjustmentId: newId(),
          undoes: a.id,
          occurredAt: nowText(),
        } satisfies UndoAdjustment,
      ),
    onSettled: onChanged,
  });
  const last = a.id === c.adjustments.at(-1)!.id;
  const derived = a.mode === 'true-value';
  // Its sum has to come out right to the digit that is shown.
  const d = c.plan.decimals + (derived ? 1 : 0);
  return (
    <Box sx={{ borderLeft: 4, borderColor: 'primary.main', pl: 2 }}>
      <Typography variant="h3">
        {a.undoes ? 'Taken back' : `Adjustment ${a.round}`}, in the {a.place}, {timeText(a.at, zone)}
        {a.undone && ' (taken back)'}
      </Typography>
      <Typography variant="body2">
        {a.byHand
          ? `Entered by hand: ${formatValue(a.entered, c.plan.decimals)}`
          : derived
            ? `Told the true value ${formatValue(a.entered, d)} ${c.unit}`
            : `Entered ${formatDifference(a.entered, c.plan.decimals)} ${c.unit}`}
        {!derived && ` (${a.byHand ? adjustmentWayNames[a.mode] : a.mode})`}; it read{' '}
        {formatValue(a.readAtEntry, c.plan.decimals)} {c.unit}{' '}
        {derived
          ? `then, and derived the offset ${formatDifference(a.resulting, d)} ${c.unit}.`
          : 'at entry.'}
        {a.guardReason && ` Beyond the guard: ${a.guardReason}.`}
        {a.runsUntil &&
          ` The device works on itself until ${timeText(a.runsUntil, zone)}: verify after that; what it reads meanwhile is marked as off-line.`}
      </Typography>
      <Sum>{a.sum}</Sum>
      <ReadingTable
        check={c}
        readings={c.readings.filter((r) => r.phase === 'verification' && r.round === a.round)}
        onChanged={onChanged}
      />
      {running && mayMeasure && last && a.place === 'device' && !a.byHand && !a.undoes && (
        <Button sx={gloved} disabled={undo.isPending} onClick={() => undo.mutate()}>
          {undo.isPending ? 'Writing …' : 'Undo: put the offset back and abandon the check'}
        </Button>
      )}
      {undo.data && undo.data.state !== 'done' && (
        <Typography role="alert">
          <b>{undo.data.state === 'unknown' ? 'Outcome unknown' : 'Not undone'}:</b> {undo.data.says}
        </Typography>
      )}
      <ProblemNote error={undo.error} />
    </Box>
  );
}
