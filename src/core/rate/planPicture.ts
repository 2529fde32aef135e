import type { FrameSize } from '../geometry/frameSize.ts';
import { assumeColour } from '../programme/colour.ts';
import type { ProgrammeFacts, VideoFacts } from '../programme/facts.ts';
import type { PicturePlan } from './encodePlan.ts';

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
  frames: { readonly inFrame: number; readonly frameCount: number },
): PicturePlan {
  return {
    streamIndex: video.index,
    startSeconds: video.startSeconds,
    bitDepth: video.bitDepth,
    size,
    sourceSize: { width: facts.width, height: facts.height },
    colour: assumeColour(video.colour, facts.height),
    sourceRange: video.colour.range ?? 'limited',
    frameRate: facts.frameRate,
    frameCount: frames.frameCount,
    inFrame: frames.inFrame,
    isWhole: frames.frameCount === facts.frameCount,
    constantRate: video.constantRate,
    seeksExactly: video.seeksExactly,
  };
}
