import TableCell from '@mui/material/TableCell';
import type { DischargeView } from '@/contract/discharge';
import { useMay } from '../shared/person';
import { TakeBack } from '../shared/TakeBack';

/** The cell of a gauging by which whoever may takes it back. */
export function GaugingBack({
  view,
  id,
  onChanged,
}: {
  view: DischargeView;
  id: string;
  onChanged: () => Promise<void>;
}) {
  if (!useMay('measure')) return null;
  return (
    <TableCell>
      <TakeBack
        address={`/api/v1/stations/${view.stationId}/discharge/gaugings/${id}`}
        onChanged={onChanged}
      />
    </TableCell>
  );
}
