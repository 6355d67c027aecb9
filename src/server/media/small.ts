import sharp from 'sharp';

// One picture at a time on one thread, nothing kept of it: what is live must not wait for what is looked at.
sharp.concurrency(1);
sharp.cache(false);
// Only what the library takes is ever decoded.
sharp.block({ operation: ['VipsForeignLoad'] });
sharp.unblock({
  operation: ['VipsForeignLoadPng', 'VipsForeignLoadJpeg', 'VipsForeignLoadWebp', 'VipsForeignLoadNsgif'],
});

/** How many pixels a picture may have along each side. */
export const WIDEST = 16_384;
/** The longer side of a picture made small, in pixels. */
export const SMALL = 320;
/** The most pixels, that is four bytes each, of a picture that is decoded as a whole. */
export const DECODED = 100_000_000;

/** A raster picture opened for reading; one whose pixels break off halfway fails when they are asked for. */
export const opened = (bytes: Uint8Array, most = WIDEST * WIDEST) =>
  sharp(bytes, { limitInputPixels: most, failOn: 'truncated', sequentialRead: true });

/**
 * A raster picture as WebP of at most 320 pixels a side, upright, its first frame alone; null where it cannot be decoded,
 * or is too large to be.
 */
export async function shrunk(bytes: Uint8Array): Promise<Uint8Array | null> {
  try {
    const small = opened(bytes, DECODED)
      .autoOrient()
      .resize(SMALL, SMALL, { fit: 'inside', withoutEnlargement: true });
    return new Uint8Array(await small.webp({ quality: 82 }).toBuffer());
  } catch {
    return null;
  }
}
