import sharp from 'sharp';

/** The longest side that is kept, and that of the small one, pixels. */
const longest = 1920;
const longestSmall = 320;
/** More pixels than any camera of a tablet has: a picture made to fill the memory is not decoded. */
const mostPixels = 60_000_000;

export interface Picture {
  readonly picture: Buffer;
  readonly small: Buffer;
  readonly width: number;
  readonly height: number;
}

/**
 * A picture as it is kept: decoded and written anew as JPEG, upright, no larger than needed. Whatever else
 * its file held (position, owner, serial number of the camera) is not in it. Null for what is no picture.
 */
export async function pictureOf(bytes: Buffer): Promise<Picture | null> {
  try {
    const read = sharp(bytes, { limitInputPixels: mostPixels, failOn: 'error' });
    const { format } = await read.metadata();
    if (format !== 'jpeg' && format !== 'png' && format !== 'webp') return null;
    const upright = read.rotate();
    const { data, info } = await upright
      .resize({ width: longest, height: longest, fit: 'inside', withoutEnlargement: true })
      .flatten({ background: '#ffffff' })
      .jpeg({ quality: 82 })
      .toBuffer({ resolveWithObject: true });
    const small = await sharp(data)
      .resize({ width: longestSmall, height: longestSmall, fit: 'inside', withoutEnlargement: true })
      .jpeg({ quality: 76 })
      .toBuffer();
    return { picture: data, small, width: info.width, height: info.height };
  } catch {
    return null;
  }
}
