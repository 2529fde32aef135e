import type { PicturePath } from '../../core/plan/encodePlan.ts';
import { encodeGraph } from '../filters/picture.ts';
import { inputPortion } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/**
 * A finer and a coarser quality of the measuring encoder, at each of which a picture is encoded: what is kept at one and dropped at the
 * other tells groups apart. Far enough from each other that what is ordered lies between: at 24 and 30 a tenth of the groups missed by
 * up to 12 % where grain was kept (quality 20 and finer), at these by up to 4.4 (measured, three and two drawn programmes, up to six
 * settings of each).
 */
export const WEIGHED_AT = [20, 32] as const;

/** What of a picture is weighed, and how. */
export interface QuickGroupsRequest {
  /** Frames of a group. */
  readonly keyframeInterval: number;
  /** Frames before the first group, which are not counted. */
  readonly lead: number;
}

/**
 * Arguments that encode a picture quickly at two qualities, with keyframes at fixed places, and tell of every frame what it
 * took and lost: the encoder says so itself, so that nothing is decoded again.
 */
export function quickGroupsArguments(
  path: PicturePath,
  { keyframeInterval, lead }: QuickGroupsRequest,
  source: string,
): string[] {
  const labels = WEIGHED_AT.map((_, index) => `[picture${index}]`);
  const graph = `[0:${path.from.streamIndex}]${encodeGraph(path)},split=${labels.length}${labels.join('')}`;
  const outputs = WEIGHED_AT.flatMap((quality, index) => [
    ...['-map', labels[index] ?? '', '-fps_mode', 'passthrough'],
    ...(lead > 0 ? ['-force_key_frames', `expr:eq(n,${lead})`] : []),
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', String(quality), '-g', String(keyframeInterval)],
    ...['-sc_threshold', '0', '-x264-params', 'ssim=1:psnr=1', '-f', 'null', '-'],
  ]);
  return [
    ...QUIET_WITH_PROGRESS,
    ...['-loglevel', 'debug'],
    ...inputPortion(source, path.from),
    ...['-filter_complex', graph, ...outputs],
  ];
}
