/** Pictures from outside made into plain small PNGs: whatever else the bytes carried is gone. */
import pLimit from 'p-limit';
import sharp, { type Sharp } from 'sharp';
import { Refusal } from '../problems/refusal.js';

/** Larger ones are refused before they are read whole. */
export const PICTURE_LIMIT = 20_000_000;
/** A picture file of a few bytes can claim to be a wall of pixels. */
const PIXEL_LIMIT = 100_000_000;
const RASTERS = new Set(['jpeg', 'png', 'webp', 'gif', 'heif', 'tiff']);

// its threads are those that also read files; the catalogue comes before pictures
sharp.concurrency(1);
sharp.cache({ memory: 32 });
const gate = pLimit(2);

/**
 * A PNG of at most `side` pixels each way, upright, transparent where it was; of a raster only (drawings:
 * `drawings.service.ts`). Never made larger.
 */
export async function smallPng(bytes: Buffer | string, side: number): Promise<Buffer> {
  return gate(async () => {
    const source: Sharp = sharp(bytes, { failOn: 'error', limitInputPixels: PIXEL_LIMIT, animated: false });
    let format: string | undefined;
    try {
      format = (await source.metadata()).format;
    } catch (error) {
      throw /pixel limit/.test((error as Error).message) ? tooManyPixels() : noPicture();
    }
    if (!RASTERS.has(format ?? '')) throw noPicture();
    try {
      return await source
        .rotate()
        .resize(side, side, { fit: 'inside', withoutEnlargement: true })
        .png({ compressionLevel: 9 })
        .toBuffer();
    } catch (error) {
      throw /pixel limit/.test((error as Error).message) ? tooManyPixels() : noPicture();
    }
  });
}

const noPicture = () =>
  new Refusal('not-valid', 'That is no picture Rellin can read, or it is damaged.', {
    remedy: 'PNG, JPEG, WebP, GIF, AVIF and TIFF are taken. Nothing was changed.',
  });

const tooManyPixels = () =>
  new Refusal('too-large', 'That picture has more than 100 million pixels.', {
    remedy: 'Make it smaller first. Nothing was changed.',
  });
