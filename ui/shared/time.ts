import { DateTime } from 'luxon';

/** Times as they stand on screen: in the site's zone, always with their offset from UTC. */
export const timeText = (iso: string | number, zone = 'utc'): string =>
  at(iso, zone).toFormat('yyyy-MM-dd HH:mm ZZ');
export const secondText = (iso: string | number, zone = 'utc'): string =>
  at(iso, zone).toFormat('yyyy-MM-dd HH:mm:ss ZZ');
export const clockText = (iso: string | number, zone = 'utc'): string => at(iso, zone).toFormat('HH:mm:ss');

const at = (iso: string | number, zone: string) =>
  (typeof iso === 'number' ? DateTime.fromMillis(iso) : DateTime.fromISO(iso)).setZone(zone);

/** Seconds since an instant. */
export const secondsSince = (iso: string, now: number): number => (now - Date.parse(iso)) / 1000;
