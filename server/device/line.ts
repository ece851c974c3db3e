import { AddressRefused, resolveAllowed, type DeviceAddress } from '@/devices/address';
import type { Context } from '../context';
import { Problem } from '../problem';

/** Lease names: a bus has one talker at a time, and so has the writing side of a logger. */
export const busLine = (gatewayAddress: string): string => `bus ${gatewayAddress}`;
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
