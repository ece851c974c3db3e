import type { SerialSettings } from '@/core/bus/serial';
import { scanOn, type ScanHit, type ScanOptions } from '@/line/scanIds';
import type { DeviceAddress } from './address';
import { openLine } from './gatewayLine';

/** A scan through a gateway, over one connection, at speed and parity it is told beforehand; null where it is set by hand. */
export async function scanLine(
  at: DeviceAddress,
  ids: readonly number[],
  options: ScanOptions & { readonly serial: SerialSettings | null },
  hit: (found: ScanHit) => void,
): Promise<void> {
  const line = await openLine(at, 2000, options.serial);
  try {
    await scanOn(line, ids, options, hit);
  } finally {
    line.close();
  }
}
