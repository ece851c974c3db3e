import { AddressRefused, resolveAllowed, type DeviceAddress } from '@/devices/address';
import type { SerialSettings } from '@/core/bus/serial';
import type { InstallationRow, PortRow } from '@/db/rows';
import type { Context } from '../context';
import { Problem } from '../problem';

/** Lease names: a bus has one talker at a time, and so has the writing side of a logger. */
export const busLine = (gatewayAddress: string): string => `bus ${gatewayAddress}`;
/** A port that is a serial line with a gateway: its address and what both ends share; null for a row of terminals. */
export function serialLine(p: PortRow): {
  readonly gatewayAddress: string;
  readonly framing: 'rtu' | 'tcp';
  readonly serial: SerialSettings;
} | null {
  const { gatewayAddress, framing, baud, dataBits, parity, stopBits } = p;
  if (!gatewayAddress || !framing || framing === 'sdi-12' || !baud || !dataBits || !parity || !stopBits)
    return null;
  return { gatewayAddress, framing, serial: { baud, dataBits, parity, stopBits } };
}

/** Where the adapter of a data line of SDI-12 is; null where only the logger speaks there. */
export const adapterOf = ({ gatewayAddress, framing }: PortRow): string | null =>
  framing === 'sdi-12' ? gatewayAddress : null;

/** How a sensor is known on its port: "ID 3", "address a", or by its terminals. */
export const addressText = ({ busId, busAddress }: Pick<InstallationRow, 'busId' | 'busAddress'>): string =>
  busId !== null ? `ID ${busId}` : busAddress !== null ? `address ${busAddress}` : 'by its terminals';

export const loggerLine = (address: string): string => `logger ${address}`;

/** Resolves a device address against the allow-list; refuses with a Problem that names it. */
export async function resolveDevice(ctx: Context, address: string): Promise<DeviceAddress> {
  try {
    return await resolveAllowed(address, ctx.deviceAllow);
  } catch (error) {
    throw new Problem({
      code: 'address-refused',
      status: 422,
      title: 'Address not dialled',
      field: 'address',
      value: address,
      detail:
        error instanceof AddressRefused ? `${error.message}.` : `The host of ${address} could not be found.`,
      remedy:
        'Correct the address, or have the administrator add it to the device allow-list (DEVICE_ALLOW).',
    });
  }
}
