import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import type { InstrumentView } from '@/contract/checkViews';
import { daysWorn, goesOffFirst } from '@/core/kit/care';
import type { QuantityCode } from '@/core/quantity/quantity';
import { PartWorn } from '../kit/CareOf';
import { nowText } from '../shared/deviceClock';
import { StateMark } from '../shared/stateMark';

/**
 * What of a handheld has to be known before it is read: what is done with it first, whether it goes off before it has
 * settled, what of it is worn.
 *
 * @param settles how long a reading is watched, s
 */
export function CareNote({
  instrument: { care },
  quantity,
  settles,
}: {
  instrument: InstrumentView;
  quantity: QuantityCode;
  settles: number;
}) {
  const response = care.responses.find((r) => r.quantity === quantity)?.seconds ?? 0;
  const takes = Math.max(settles, 5 * response);
  const today = nowText().slice(0, 10);
  const worn = care.parts.filter((p) => daysWorn(p, today) > 0);
  return (
    <>
      {care.preparation.length > 0 && (
        <Typography>Before it is read: {care.preparation.join('; ')}.</Typography>
      )}
      {goesOffFirst(care.switchesOffAfter, takes) && (
        <Box sx={{ display: 'flex', gap: 1, alignItems: 'center' }}>
          <StateMark state="displaced" />
          <b>
            It switches itself off {care.switchesOffAfter} s after the last key, and a reading takes {takes}{' '}
            s: press a key in between.
          </b>
        </Box>
      )}
      {worn.map((p) => (
        <PartWorn key={p.name} part={p} />
      ))}
    </>
  );
}
