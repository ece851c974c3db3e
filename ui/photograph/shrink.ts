import exifr from 'exifr';
import { refuseHere } from '../shared/api';
import type { Mark } from './marks';
import { redraw, workerReady, type Redrawn, type RedrawOrder } from './redraw';

/** A larger file is not even opened, bytes: no camera of a tablet writes it. */
const largestFile = 30_000_000;
/** So long a picture may take, ms; a worker that ran out of memory does not answer. */
const patience = 60_000;

/**
 * Asks the worker; one that breaks or never answers could not read it. One whose script could not be had, as
 * where the signal went before it was wanted, is done without.
 */
function inWorker(order: RedrawOrder): Promise<Redrawn> {
  const worker = new Worker(new URL('./redraw.worker.ts', import.meta.url), { type: 'module' });
  return new Promise<Redrawn>((resolve) => {
    const failed = () => resolve({ kind: 'not-a-picture' });
    let isThere = false;
    setTimeout(failed, patience);
    worker.onmessage = ({ data }: MessageEvent<Redrawn | typeof workerReady>) => {
      if (data === workerReady) isThere = true;
      else resolve(data);
    };
    worker.onerror = () => {
      if (isThere) failed();
      else void redraw(order).then(resolve);
    };
    worker.postMessage(order);
  }).finally(() => worker.terminate());
}

/**
 * A picture made small enough to send, upright, with its marks, and without whatever else its file holds.
 * Throws a Refusal for a file that is too large or no picture.
 */
export async function shrink(file: Blob, name: string, marks: readonly Mark[] = []): Promise<Blob> {
  if (file.size > largestFile)
    throw refuseHere(
      'picture-too-large',
      'picture',
      `${name} has ${(file.size / 1e6).toFixed(1)} MB; files of up to ${largestFile / 1e6} MB are opened.`,
      'Take it with a smaller size, or crop it first.',
    );
  const said = await inWorker({ file, marks });
  switch (said.kind) {
    case 'done':
      return said.picture;
    case 'too-many-pixels':
      throw refuseHere(
        'picture-too-large',
        'picture',
        `${name} has ${said.width} × ${said.height} pixels, more than can be made smaller here.`,
        'Take it with a smaller size, or crop it first.',
      );
    case 'not-a-picture':
      throw refuseHere(
        'not-a-picture',
        'picture',
        `${name} is no picture that this browser can read.`,
        'Choose a JPEG, PNG or WebP picture; a telephone may have to be set to write JPEG.',
      );
  }
}

/** Where a picture was taken, by its own file; null where that does not say. */
export async function positionOf(file: File): Promise<{ latitude: number; longitude: number } | null> {
  const found = await exifr.gps(file).catch(() => undefined);
  return found && Number.isFinite(found.latitude) && Number.isFinite(found.longitude)
    ? { latitude: found.latitude, longitude: found.longitude }
    : null;
}

/** What is in a blob, as base64. */
export const base64Of = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader();
    reader.onload = () => resolve(String(reader.result).replace(/^[^,]*,/, ''));
    reader.onerror = () => reject(reader.error ?? new Error('the picture could not be read'));
    reader.readAsDataURL(blob);
  });
