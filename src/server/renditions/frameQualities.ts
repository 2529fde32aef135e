import { pictureOf } from '../../core/plan/encodePlan.ts';
import { mseToPsnr } from '../../core/quality/frameQuality.ts';
import { comparePeak } from '../../engine/arguments/measure.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';
import { Refusal } from '../refusal.ts';
import { unpackQualities } from './packedQualities.ts';
import { findRendition } from './renditions.ts';

/** Per-frame qualities as CSV, a row per frame, frames counted from 0 in the result. */
export async function qualityCsv(context: Context, id: string): Promise<string> {
  const rendition = await findRendition(context, id);
  const [row] = await context.database.query<{ frames: Uint8Array | null }>(statements.READ_FRAMES, [id]);
  const picture = pictureOf(rendition.plan);
  if (!row?.frames || !picture) {
    throw new Refusal('not-found', 'This rendition has no measured frames; they are there once it is checked.');
  }
  const peak = comparePeak(picture);
  const lines = unpackQualities(row.frames).map((frame, index) => {
    const numbers = [
      frame.ssimLuma.toFixed(6),
      frame.ssimAll.toFixed(6),
      mseToPsnr(frame.mseLuma, peak).toFixed(3),
      mseToPsnr(frame.mseAll, peak).toFixed(3),
    ];
    return `${index},${numbers.join(',')}`;
  });
  return `frame,ssim_y,ssim_all,psnr_y,psnr_all\n${lines.join('\n')}\n`;
}
