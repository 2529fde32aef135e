import type { FrameSize } from '../geometry/frameSize.ts';
import { croppedSize, type Preparation } from '../geometry/preparation.ts';
import { assumeColour } from '../programme/colour.ts';
import type { ProgrammeFacts, VideoFacts } from '../programme/facts.ts';
import { portionClock, type FrameClock } from '../timing/frameClock.ts';
import { openAtFrame } from '../programme/opening.ts';
import type { PicturePlan } from './encodePlan.ts';

/** Read beyond a portion, so that reordering at its end loses none. */
const SPARE_SECONDS = 1;

/**
 * How frames of a programme are read and brought to a size.
 *
 * @param video - The programme's picture, known to be there.
 * @param frames - Which of them, in frames of the source.
 */
export function planPicture(
  facts: ProgrammeFacts,
  video: VideoFacts,
  size: FrameSize,
  preparation: Preparation,
  frames: { readonly inFrame: number; readonly frameCount: number },
  clock: FrameClock,
): PicturePlan {
  const own = portionClock(clock, frames.inFrame);
  return {
    streamIndex: video.index,
    bitDepth: video.bitDepth,
    size,
    sourceSize: croppedSize(facts, preparation.crop),
    preparation: { deinterlace: preparation.deinterlace, crop: preparation.crop },
    colour: assumeColour(video.colour, facts.height),
    sourceRange: video.colour.range ?? 'limited',
    frameRate: facts.frameRate,
    frameCount: frames.frameCount,
    inFrame: frames.inFrame,
    constantRate: video.constantRate,
    lastFrame: {
      atSeconds: own.secondsOf(frames.frameCount - 1),
      endSeconds: own.secondsOf(frames.frameCount),
    },
    opening: openingOf(facts, video, frames, clock),
  };
}

function openingOf(
  facts: ProgrammeFacts,
  video: VideoFacts,
  { inFrame, frameCount }: { readonly inFrame: number; readonly frameCount: number },
  clock: FrameClock,
): PicturePlan['opening'] {
  const opening = frameCount === facts.frameCount ? null : openAtFrame(video, clock, inFrame);
  if (!opening) return null;
  const seconds = clock.secondsOf(inFrame + frameCount) - clock.secondsOf(inFrame);
  return { ...opening, seconds: opening.skipSeconds + seconds + SPARE_SECONDS };
}
