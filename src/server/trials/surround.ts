import type { EncodedPicture } from '../../core/plan/encodePlan.ts';
import { toNumber } from '../../core/timing/rational.ts';
import { RATED } from '../../core/video/codecs.ts';

/** Frames encoded before and after a group that are not counted, in seconds: encoders go by what was, and look ahead. */
const BEFORE_SECONDS = 0.6;
const AFTER_SECONDS = 0.35;

/**
 * A group with frames around it. Encoded by itself it came out 3 to 5 % smaller than in the whole in H.264 and HEVC, and 9 %
 * larger in AV1 where little moves; with these frames within 0.7 %, and more after it change nothing (measured).
 */
export function surround({ from, out, do: work }: EncodedPicture, inFrame: number, frameCount: number) {
  const framesOf = (seconds: number) => Math.round(seconds * toNumber(out.frameRate));
  const { takesKeyframes } = RATED[work.codec].quality;
  const before = takesKeyframes ? Math.min(framesOf(BEFORE_SECONDS), work.keyframeInterval) : work.keyframeInterval;
  const lead = Math.min(before, inFrame - from.inFrame);
  const tail = Math.min(framesOf(AFTER_SECONDS), from.inFrame + out.frameCount - inFrame - frameCount);
  return {
    lead,
    span: { first: inFrame - from.inFrame - lead, count: lead + frameCount + tail },
    keyframeAt: takesKeyframes ? lead : 0,
  };
}
