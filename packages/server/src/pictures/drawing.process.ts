/**
 * Draws SVG as PNG, in a process of its own (`drawings.service.ts`): a drawing of a few lines can ask for more work
 * than there is time, and nothing within a process can break that off. Nothing is read for it but its text.
 */
import { writeFileSync } from 'node:fs';
import sharp from 'sharp';

export interface ToDraw {
  svg: Uint8Array;
  /** Pixels each way, at most. */
  side: number;
}
export type Drawn = { png: Uint8Array } | { failed: string };

/** As many as a picture may have. */
const PIXEL_LIMIT = 100_000_000;
/** Pixels an inch: what SVG reckons with, and the most that the library takes. */
const [USUAL_DENSITY, MOST_DENSITY] = [72, 2400];

// where memory runs out, this process goes first
writeFileSync('/proc/self/oom_score_adj', '1000');
sharp.concurrency(1);
sharp.cache(false);

async function draw({ svg, side }: ToDraw): Promise<Drawn> {
  try {
    const { format, width = side, height = side } = await sharp(svg, { limitInputPixels: PIXEL_LIMIT }).metadata();
    if (format !== 'svg') return { failed: 'no drawing' };
    const density = Math.min(MOST_DENSITY, Math.max(1, (USUAL_DENSITY * side) / Math.max(width, height)));
    const png = await sharp(svg, { limitInputPixels: PIXEL_LIMIT, density })
      .resize(side, side, { fit: 'inside' })
      .png()
      .toBuffer();
    return { png };
  } catch (error) {
    return { failed: (error as Error).message };
  }
}

// without the server there is nobody to give it up
process.on('disconnect', () => process.kill(process.pid, 'SIGKILL'));
process.on('message', (asked: ToDraw) => void draw(asked).then((drawn) => process.send!(drawn)));
