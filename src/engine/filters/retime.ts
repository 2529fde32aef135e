import type { Retime } from '../../core/picture/retime.ts';
import { EARLY_OF_A_FRAME, EARLY_SECONDS } from '../../core/timing/frameMap.ts';
import { framesToSeconds } from '../../core/timing/rational.ts';
import { OWN_TICKS } from './stamp.ts';

/** Parts of a frame that its time is counted in, so that the tolerance is a whole number of them. */
const PARTS = 1 / EARLY_OF_A_FRAME;

/** The last frame is held to the end, and frames are counted. */
export function renderRetime({ rate, frames, first, read }: Retime): string {
  const times =
    'frame' in read
      ? `settb=${read.rate.den}/${read.rate.num * PARTS},setpts=${PARTS}*N+${PARTS * read.frame - 1}`
      : `settb=1/${OWN_TICKS},setpts=PTS-STARTPTS+${Math.round((read.seconds - EARLY_SECONDS) * OWN_TICKS)}`;
  const begin = framesToSeconds(first, rate).toFixed(9);
  // Rounding times up is taking the last frame that has begun.
  const picked = `fps=fps=${rate.num}/${rate.den}:round=up:start_time=${begin}`;
  return [times, picked, `tpad=stop=${frames}:stop_mode=clone`, `trim=end_frame=${frames}`].join(',');
}
