import type { FrameSize } from '../geometry/frameSize.ts';
import { croppedSize, type Preparation } from '../geometry/preparation.ts';
import type { PictureStep } from '../picture/chain.ts';
import type { Sampling } from '../picture/scale.ts';
import type { PixelFormat } from '../picture/store.ts';
import { assumeColour } from '../programme/colour.ts';
import type { ProgrammeFacts, VideoFacts } from '../programme/facts.ts';
import { openAtFrame } from '../programme/opening.ts';
import { portionClock, type FrameClock } from '../timing/frameClock.ts';
import type { PictureFacts, PicturePath, PictureSource } from './encodePlan.ts';

/** Read beyond a portion, so that reordering at its end loses none. */
const SPARE_SECONDS = 1;

/** Frames of a programme, from the first taken. */
export interface Frames {
  readonly inFrame: number;
  readonly frameCount: number;
}

/** What a path is made of. */
interface PathRequest {
  readonly facts: ProgrammeFacts;
  /** The programme's picture, known to be there. */
  readonly video: VideoFacts;
  readonly clock: FrameClock;
  readonly frames: Frames;
  readonly size: FrameSize;
  readonly preparation: Preparation;
  readonly format: PixelFormat;
}

/** How frames of a programme are read, prepared, brought to a size, and stamped. */
export function planPicture(request: PathRequest): PicturePath {
  const { facts, video, clock, frames, size, preparation, format } = request;
  const from = readFrames(facts, video, frames, clock);
  const colour = assumeColour(video.colour, facts.height);
  return {
    from,
    chain: [
      ...prepare(preparation),
      { step: 'scale', size, from: from.sampling, to: { matrix: colour.matrix, range: 'limited' } },
      { step: 'store', format },
      { step: 'tag', colour },
      { step: 'stamp', rate: from.constantRate ? from.frameRate : null },
    ],
    comparedAt: croppedSize(facts, preparation.crop),
    out: {
      size,
      frameRate: from.frameRate,
      constantRate: from.constantRate,
      colour,
      range: 'limited',
      format,
      ...timeFrames(frames, clock),
    },
  };
}

/** The steps that make a master's frames ready to be scaled or compared; none when nothing is to be done. */
export function prepare({ deinterlace, crop }: Preparation): PictureStep[] {
  return [
    ...(deinterlace ? [{ step: 'deinterlace' as const, fields: deinterlace }] : []),
    ...(crop ? [{ step: 'crop' as const, edges: crop }] : []),
  ];
}

/** Where frames of a programme are read, and what they are there. */
export function readFrames(facts: ProgrammeFacts, video: VideoFacts, frames: Frames, clock: FrameClock): PictureSource {
  return {
    streamIndex: video.index,
    inFrame: frames.inFrame,
    frameCount: frames.frameCount,
    frameRate: facts.frameRate,
    constantRate: video.constantRate,
    sampling: samplingOf(facts, video),
    bitDepth: video.bitDepth,
    ...(video.alpha ? { transparentBy: video.codec } : {}),
    opening: openingOf(facts, video, frames, clock),
  };
}

/** What the numbers of a programme's pixels mean, with nothing left open. */
export function samplingOf({ height }: ProgrammeFacts, { colour }: VideoFacts): Sampling {
  return { matrix: assumeColour(colour, height).matrix, range: colour.range ?? 'limited' };
}

/** How many frames come out, and how long the last is shown. */
export function timeFrames(
  { inFrame, frameCount }: Frames,
  clock: FrameClock,
): Pick<PictureFacts, 'frameCount' | 'lastFrame'> {
  const own = portionClock(clock, inFrame);
  return {
    frameCount,
    lastFrame: { atSeconds: own.secondsOf(frameCount - 1), endSeconds: own.secondsOf(frameCount) },
  };
}

function openingOf(
  facts: ProgrammeFacts,
  video: VideoFacts,
  { inFrame, frameCount }: Frames,
  clock: FrameClock,
): PictureSource['opening'] {
  const opening = frameCount === facts.frameCount ? null : openAtFrame(video, clock, inFrame);
  if (!opening) return null;
  const seconds = clock.secondsOf(inFrame + frameCount) - clock.secondsOf(inFrame);
  return { ...opening, seconds: opening.skipSeconds + seconds + SPARE_SECONDS };
}
