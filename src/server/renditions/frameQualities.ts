import { pictureOf, type PicturePath } from '../../core/plan/encodePlan.ts';
import { framesOf } from '../../core/plan/planPicture.ts';
import { poolScenes, type SceneQuality } from '../../core/quality/closerLook.ts';
import { mseToPsnr, type FrameQuality } from '../../core/quality/frameQuality.ts';
import { comparePeak } from '../../engine/arguments/compare.ts';
import * as statements from '../../store/statements/renditions.ts';
import { readAnalysis } from '../analysis/readAnalysis.ts';
import type { Context } from '../context.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { unpackQualities } from './packedQualities.ts';
import type { RenditionRow } from './renditionRow.ts';
import { findRendition } from './renditions.ts';

interface Measured {
  readonly rendition: RenditionRow;
  readonly picture: PicturePath;
  readonly frames: readonly FrameQuality[];
}

async function findFrames(context: Context, id: string): Promise<Measured> {
  const rendition = await findRendition(context, id);
  const [row] = await context.database.query<{ frames: Uint8Array | null }>(statements.READ_FRAMES, [id]);
  const picture = pictureOf(rendition.plan);
  if (!row?.frames || !picture) {
    throw new Refusal('not-found', 'This rendition has no measured frames; they are there once it is checked.');
  }
  return { rendition, picture, frames: unpackQualities(row.frames) };
}

/** Per-frame qualities as CSV, a row per frame, frames counted from 0 in the result. */
export async function qualityCsv(context: Context, id: string): Promise<string> {
  const { picture, frames } = await findFrames(context, id);
  const peak = comparePeak(picture);
  const isWeighted = frames[0]?.mseWeighted !== undefined;
  const lines = frames.map((frame, index) => {
    const numbers = [
      frame.ssimLuma.toFixed(6),
      frame.ssimAll.toFixed(6),
      mseToPsnr(frame.mseLuma, peak).toFixed(3),
      mseToPsnr(frame.mseAll, peak).toFixed(3),
      ...(isWeighted ? [mseToPsnr(frame.mseWeighted ?? 0, peak).toFixed(3)] : []),
    ];
    return `${index},${numbers.join(',')}`;
  });
  return `frame,ssim_y,ssim_all,psnr_y,psnr_all${isWeighted ? ',xpsnr_y' : ''}\n${lines.join('\n')}\n`;
}

/** The scenes of a result, as the analysis of its master found them, each with its means in decibels. */
export async function sceneQualities(context: Context, id: string): Promise<{ readonly scenes: SceneQuality[] }> {
  const { rendition, picture, frames } = await findFrames(context, id);
  const findings = (await readAnalysis(context, rendition.programme_id))?.findings ?? null;
  const programme = await findProgramme(context, rendition.programme_id);
  const { toResult } = framesOf(picture, await readClock(context, programme));
  // At a lower rate two may begin with one frame.
  const starts = [...new Set((findings?.sceneChanges ?? []).map(toResult))];
  return { scenes: poolScenes(frames, starts, comparePeak(picture)) };
}
