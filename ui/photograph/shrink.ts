import exifr from 'exifr';
import { largestPicture } from '@/contract/photographs';
import { refuseHere } from '../shared/api';

/** The longest side that is sent, pixels. */
const longest = 1920;
/** A larger file is not even opened, bytes: no camera of a tablet writes it. */
const largestFile = 30_000_000;

/** The sizes of a picture brought inside a square; never made larger. */
export function inside(width: number, height: number, most: number): { width: number; height: number } {
  const by = Math.min(1, most / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * by)), height: Math.max(1, Math.round(height * by)) };
}

/**
 * A picture made small enough to send, upright, and without whatever else its file holds: it is drawn anew.
 * Throws a Refusal for a file that is too large or no picture.
 */
export async function shrink(file: File): Promise<Blob> {
  if (file.size > largestFile)
    throw refuseHere(
      'picture-too-large',
      'picture',
      `${file.name} has ${(file.size / 1e6).toFixed(1)} MB; files of up to ${largestFile / 1e6} MB are opened.`,
      'Take it with a smaller size, or crop it first.',
    );
  const bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' }).catch(() => {
    throw refuseHere(
      'not-a-picture',
      'picture',
      `${file.name} is no picture that this browser can read.`,
      'Choose a JPEG, PNG or WebP picture; a telephone may have to be set to write JPEG.',
    );
  });
  const { width, height } = inside(bitmap.width, bitmap.height, longest);
  const canvas = new OffscreenCanvas(width, height);
  const pen = canvas.getContext('2d')!;
  pen.fillStyle = '#ffffff';
  pen.fillRect(0, 0, width, height);
  pen.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  for (const quality of [0.85, 0.7, 0.5]) {
    const blob = await canvas.convertToBlob({ type: 'image/jpeg', quality });
    if (blob.size <= largestPicture) return blob;
  }
  return canvas.convertToBlob({ type: 'image/jpeg', quality: 0.3 });
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
