import { shapeOf, type FrameSize } from '../../core/geometry/frameSize.ts';
import {
  drawnFrom,
  framesPerFrame,
  leadFrames,
  referenceChain,
  referenceSampling,
  retimeOf,
  unpadding,
  type PictureStep,
} from '../../core/picture/chain.ts';
import {
  isEncoded,
  soundsOf,
  type EncodePlan,
  type PicturePath,
  type PictureStream,
} from '../../core/plan/encodePlan.ts';
import { framesOf, resultClock, samplingOf } from '../../core/plan/planPicture.ts';
import type { ProgrammeFacts, VideoFacts } from '../../core/programme/facts.ts';
import { openAtFrame } from '../../core/programme/opening.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import { SOUND } from '../../core/sound/codecs.ts';
import { framesToSeconds, rational } from '../../core/timing/rational.ts';
import type { StillRequest } from '../../engine/arguments/still.ts';
import { Refusal } from '../refusal.ts';

/** How a frame of a master is asked for; shared with the check of a result's colour. */
export function masterRequest<Size extends FrameSize | null>(
  file: string,
  facts: ProgrammeFacts,
  clock: FrameClock,
  frame: number,
  size: Size,
): StillRequest & { readonly size: Size } {
  const video = requireVideo(facts);
  return {
    path: file,
    streamIndex: video.index,
    frame,
    opening: openAt(video, clock, frame, 0),
    chain: [],
    sampling: samplingOf(facts, video),
    size,
  };
}

/** Frames read before one that is deinterlaced, which looks at its neighbours. */
const NEIGHBOURS = 2;

/**
 * A frame of a master as a rendition took it.
 *
 * @param frame - Of the rendition, from 0.
 */
export function preparedRequest<Size extends FrameSize | null>(
  file: string,
  facts: ProgrammeFacts,
  clock: FrameClock,
  path: Pick<PicturePath, 'from' | 'chain'>,
  frame: number,
  size: Size,
): StillRequest & { readonly size: Size } {
  const sampling = referenceSampling(path.chain, samplingOf(facts, requireVideo(facts)));
  const wanted = { chain: referenceChain(path.chain), sampling, size };
  return { ...throughChain(file, facts, clock, path, frame, wanted), size };
}

/** A frame of a result, brought to the master's frame size. */
export function resultRequest(
  { path, plan }: { readonly path: string; readonly plan: EncodePlan },
  { video }: ProgrammeFacts,
  masterClock: FrameClock,
  picture: PictureStream,
  frame: number,
): StillRequest {
  const { out, comparedAt, chain } = picture;
  // What was copied begins wherever its master's streams do.
  const seeksExactly = isEncoded(picture) && (out.constantRate || video?.seeksExactly === true);
  const seeks = { seeksExactly, seekLeadSeconds: 0, startSeconds: leadOf(plan) };
  return {
    ...{ path, streamIndex: 0, frame },
    opening: openAt(seeks, resultClock(picture, masterClock), frame, 0),
    chain: unpadding(chain),
    sampling: { matrix: out.colour.matrix, range: out.range },
    size: comparedAt,
  };
}

/** When the picture of a result begins, counted from the earliest of its streams. */
function leadOf(plan: EncodePlan): number {
  return Math.max(0, ...soundsOf(plan).map(({ do: { codec } }) => SOUND[codec].leadSeconds[plan.container] ?? 0));
}

/** A frame as it goes into an encoder. */
export function orderedRequest(
  file: string,
  facts: ProgrammeFacts,
  clock: FrameClock,
  { from, chain, out }: PicturePath,
  frame: number,
): StillRequest {
  const sampling = { matrix: out.colour.matrix, range: out.range };
  return throughChain(file, facts, clock, { from, chain }, frame, { chain, sampling, size: out.size });
}

/** Steps that are about the times of frames, and one picture has none. */
const OF_TIMES: ReadonlySet<PictureStep['step']> = new Set(['retime', 'lead', 'tag', 'stamp']);

function throughChain(
  file: string,
  facts: ProgrammeFacts,
  clock: FrameClock,
  path: Pick<PicturePath, 'from' | 'chain'>,
  frame: number,
  wanted: Pick<StillRequest, 'chain' | 'sampling' | 'size'>,
): StillRequest {
  const { toSource, toResult } = framesOf(path, clock);
  const shown = toSource(frame);
  const steps = wanted.chain.filter(({ step }) => !OF_TIMES.has(step));
  const neighbours = steps.some(({ step }) => step === 'deinterlace') ? NEIGHBOURS : 0;
  const wantedBefore = Math.max(leadFrames(steps), neighbours);
  const opening = openAt(requireVideo(facts), clock, shown, Math.min(wantedBefore, shown - path.from.inFrame));
  // Of a frame whose fields are frames each, the wanted one.
  const times = framesPerFrame(steps);
  const framesBefore = opening.framesBefore * times + (times > 1 ? frame - toResult(shown) : 0);
  const request = masterRequest(file, facts, clock, shown, wanted.size);
  // Frames come with the times of the master, and captions go by those of the result.
  const retime = retimeOf(path.chain);
  const atSeconds = retime
    ? framesToSeconds(frame, retime.rate)
    : clock.secondsOf(shown) - clock.secondsOf(path.from.inFrame);
  const before = clock.secondsOf(shown) - clock.secondsOf(shown - opening.framesBefore);
  const chain = drawnFrom(steps, { seconds: atSeconds - before });
  return { ...request, ...wanted, chain, opening: { ...opening, framesBefore } };
}

function requireVideo({ video }: ProgrammeFacts): VideoFacts {
  if (!video) throw new Refusal('no-picture', 'This programme has sound only; there is no frame to show.');
  return video;
}

function openAt(
  video: Parameters<typeof openAtFrame>[0],
  clock: FrameClock,
  frame: number,
  framesBefore: number,
): StillRequest['opening'] {
  const opening = openAtFrame(video, clock, frame - framesBefore);
  return opening ? { ...opening, framesBefore } : { atSeconds: 0, skipSeconds: 0, framesBefore: frame };
}

/** A width and the height that goes with it, in square pixels. */
export function thumbnailSize(facts: ProgrammeFacts, width: number): FrameSize {
  const shape = shapeOf(facts, facts.video?.pixelAspect ?? rational(1, 1));
  return { width, height: Math.max(2, Math.round(width / shape / 2) * 2) };
}
