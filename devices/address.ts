import { isIP } from 'node:net';
import { lookup } from 'node:dns/promises';

export interface DeviceAddress {
  readonly host: string;
  readonly port: number;
}

/** "host:port" apart; null when it is not of that form. */
export function parseAddress(text: string): DeviceAddress | null {
  const match = /^([A-Za-z0-9.-]+|\[[0-9a-fA-F:]+\]):(\d{1,5})$/.exec(text.trim());
  if (!match) return null;
  const port = Number(match[2]);
  return port >= 1 && port <= 65535 ? { host: match[1]!.replace(/^\[|\]$/g, ''), port } : null;
}

/**
 * Whether the allow-list ("127.0.0.1:5200-5240, logger.example:502") names an address. Only
 * literal matches count: an address nobody wrote down is not dialled.
 */
export function isAllowed(address: DeviceAddress, allowList: string): boolean {
  return allowList.split(',').some((entry) => {
    const match = /^\s*(.+):(\d+)(?:-(\d+))?\s*$/.exec(entry);
    if (!match) return false;
    const low = Number(match[2]);
    return match[1] === address.host && address.port >= low && address.port <= Number(match[3] ?? low);
  });
}

export class AddressRefused extends Error {}

/** Resolves an allowed address once, to the IP that is then dialled. Throws AddressRefused. */
export async function resolveAllowed(text: string, allowList: string): Promise<DeviceAddress> {
  const address = parseAddress(text);
  if (!address) throw new AddressRefused(`"${text}" is not host:port`);
  if (!isAllowed(address, allowList)) throw new AddressRefused(`${text} is not on the device allow-list`);
  if (isIP(address.host)) return address;
  return { host: (await lookup(address.host)).address, port: address.port };
}
