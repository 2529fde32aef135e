import type { FrameQuality } from './frameQuality.ts';

/**
 * What each group of pictures loses: the squares of what SSIM misses, added up, so that a few bad frames weigh more than
 * many that are a little worse.
 *
 * @param frames - In the order they are shown.
 * @param counts - Frames of each group, in the same order.
 */
export function lossesOfGroups(frames: readonly FrameQuality[], counts: readonly number[]): number[] {
  let first = 0;
  return counts.map((count) => {
    const group = frames.slice(first, first + count);
    first += count;
    return group.reduce((sum, { ssimAll }) => sum + (1 - ssimAll) ** 2, 0);
  });
}
