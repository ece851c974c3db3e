'use client';

import { fieldWriteAddress, fieldWrites } from '@/contract/fieldWrites';
import type { CaptureReading } from '@/contract/requests';
import type { CheckView } from '@/contract/checkViews';
import { useDoFieldWrite } from '../outbox/useFieldWrite';
import { send } from '../shared/api';
import { useStationBasics } from '../station/StationBasics';

/** Sends a reading of a check; one that was typed whole may wait on the device until there is a signal. */
export function useSendReading() {
  const { zone } = useStationBasics();
  const doFieldWrite = useDoFieldWrite();
  return async (check: CheckView, body: CaptureReading): Promise<{ kept: boolean }> => {
    const params = { checkId: check.id };
    const { stationId } = check;
    if (body.typed) {
      const where = `${check.stationCode} ${check.channelName}`;
      return doFieldWrite({ kind: 'checkReading', stationId, params, where, zone, body });
    }
    // The logger says what the sensor reads at this moment: such a reading cannot wait.
    await send('POST', fieldWriteAddress(fieldWrites.checkReading, { stationId, ...params }), body);
    return { kept: false };
  };
}
