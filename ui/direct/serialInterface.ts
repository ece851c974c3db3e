import type { PortLike } from '@/line/serialPortLine';

/** The browser's serial interface, where it has one. Web Serial API, W3C community draft. */
export interface SerialInterface {
  requestPort(): Promise<PortLike>;
}

export const serialInterface = (): SerialInterface | null =>
  typeof navigator !== 'undefined' && 'serial' in navigator
    ? (navigator as { serial: SerialInterface }).serial
    : null;
