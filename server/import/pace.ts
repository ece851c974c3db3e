import { Problem } from '../problem';

/**
 * A file that does not come is not waited for: others want their turn. Our own choice, for a line of the
 * poorest kind: half a minute of silence, or less than so many bytes a second once it had a minute.
 */
const longestSilence = 30_000;
const slowest = 2000;
const graceful = 60_000;

const tooSlow = (detail: string) =>
  new Problem({
    code: 'upload-too-slow',
    status: 408,
    title: 'Too slow',
    field: 'file',
    detail,
    remedy: 'Nothing was stored. Send it again over a better line, or split it.',
  });

/** The next piece of a file, or a refusal once the line has been silent for too long (ms). */
export async function inTime<T>(next: Promise<T>, silence = longestSilence): Promise<T> {
  let timer: NodeJS.Timeout | undefined;
  const silent = new Promise<never>((_, reject) => {
    timer = setTimeout(() => reject(tooSlow(`Nothing of the file came for ${silence / 1000} s.`)), silence);
  });
  try {
    return await Promise.race([next, silent]);
  } finally {
    clearTimeout(timer);
  }
}

/** Refuses a file that trickles: so many bytes in so many ms since it began. */
export function requirePace(received: number, tookMs: number): void {
  const perSecond = received / (tookMs / 1000);
  if (tookMs > graceful && perSecond < slowest)
    throw tooSlow(`The file comes at ${Math.round(perSecond)} bytes a second.`);
}
