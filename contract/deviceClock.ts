/** What a device says of its own clock with a write: when it was done by that clock, and by how much it is ahead. */
export interface DeviceTime {
  /** The instant of the act by the device, ISO. */
  readonly at: string;
  /** What was taken off it to have the server's time, s. */
  readonly ahead: number;
}

/** The request's header. */
export const deviceTimeHeader = 'device-time';
/** The header with which every answer says the server's time, ms since epoch. */
export const serverTimeHeader = 'server-time';

/** @example "2026-03-01T09:30:00.000Z; ahead=12.5" */
export const deviceTimeText = ({ at, ahead }: DeviceTime): string => `${at}; ahead=${ahead}`;

/** The same back; null for what is none. */
export function parseDeviceTime(text: string): DeviceTime | null {
  const [, at, ahead] =
    /^(\d{4}-\d\d-\d\dT\d\d:\d\d:\d\d\.\d{3}Z); ahead=(-?\d+(?:\.\d+)?)$/.exec(text) ?? [];
  if (!at || !ahead || !Number.isFinite(Date.parse(at))) return null;
  return { at, ahead: Number(ahead) };
}
