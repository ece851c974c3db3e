import { largestPicture } from '@/contract/photographs';
import { drawMarks, type Mark } from './marks';

/** The longest side that is sent, pixels. */
const longest = 1920;
/** More than any camera of a tablet makes, pixels: a picture made to fill the memory is not decoded. */
const mostPixels = 200_000_000;

/** What the worker says once its script is there. */
export const workerReady = 'ready';

export interface RedrawOrder {
  readonly file: Blob;
  readonly marks: readonly Mark[];
}
export type Redrawn =
  | { readonly kind: 'done'; readonly picture: Blob }
  | { readonly kind: 'not-a-picture' }
  | { readonly kind: 'too-many-pixels'; readonly width: number; readonly height: number };

/** The sizes of a picture brought inside a square; never made larger. */
export function inside(width: number, height: number, most: number): { width: number; height: number } {
  const by = Math.min(1, most / Math.max(width, height));
  return { width: Math.max(1, Math.round(width * by)), height: Math.max(1, Math.round(height * by)) };
}

/**
 * A picture drawn anew: small enough to send, upright, with marks, and without whatever else its file holds.
 */
export async function redraw({ file, marks }: RedrawOrder): Promise<Redrawn> {
  let bitmap: ImageBitmap;
  try {
    bitmap = await createImageBitmap(file, { imageOrientation: 'from-image' });
  } catch {
    return { kind: 'not-a-picture' };
  }
  const { width: wide, height: high } = bitmap;
  if (wide * high > mostPixels) {
    bitmap.close();
    return { kind: 'too-many-pixels', width: wide, height: high };
  }
  const { width, height } = inside(wide, high, longest);
  const canvas = new OffscreenCanvas(width, height);
  const pen = canvas.getContext('2d')!;
  pen.fillStyle = '#ffffff';
  pen.fillRect(0, 0, width, height);
  pen.drawImage(bitmap, 0, 0, width, height);
  bitmap.close();
  drawMarks(pen, width, height, marks);
  let picture = await canvas.convertToBlob({ type: 'image/jpeg', quality: 0.85 });
  for (const quality of [0.7, 0.5, 0.3]) {
    if (picture.size <= largestPicture) break;
    picture = await canvas.convertToBlob({ type: 'image/jpeg', quality });
  }
  return { kind: 'done', picture };
}
