import { shapeOf, SQUARE, type FrameSize } from '../geometry/frameSize.ts';
import { insideOf, leftOf, turnedAspect } from '../geometry/framing.ts';
import type { Preparation } from '../geometry/preparation.ts';
import { adjusts, type Adjust } from '../picture/adjust.ts';
import { drawnFrom, framesPerFrame, leadFrames, leavingOut, retimeOf, type PictureStep } from '../picture/chain.ts';
import type { MarkChoice } from '../picture/mark.ts';
import { padTo, type Pad } from '../picture/pad.ts';
import type { Retime } from '../picture/retime.ts';
import type { Sampling } from '../picture/scale.ts';
import { partsOf, pixelFormat, workingFormat, type PixelFormat } from '../picture/store.ts';
import { STANDARD_COLOUR, STANDARD_SAMPLING, type ToneMap } from '../picture/toneMap.ts';
import { fieldRate } from '../recipe/frameRate.ts';
import { assumeColour, isHighDynamicRange, peakOf, type Colour } from '../programme/colour.ts';
import type { ProgrammeFacts, VideoFacts } from '../programme/facts.ts';
import { openAtFrame } from '../programme/opening.ts';
import { constantClock, portionClock, type FrameClock } from '../timing/frameClock.ts';
import { retimedFrames, sameFrames, type FrameMap } from '../timing/frameMap.ts';
import { rational, sameRational, toNumber, type Rational } from '../timing/rational.ts';
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
  /** Another rate than the programme's own, or null. */
  readonly rate: Rational | null;
  /** What is drawn into every frame; nothing where it is not given. */
  readonly mark?: MarkChoice | null;
  /** Which of the programme's captions are drawn in; none where it is not given. */
  readonly captions?: number | null;
  /** Width over height of a pixel of the result; square where it is not given. */
  readonly pixelAspect?: Rational;
}

/** How frames of a programme are read, prepared, brought to a size, and stamped. */
export function planPicture(request: PathRequest): PicturePath {
  const { facts, video, clock, frames, size, preparation, format, rate, pixelAspect } = request;
  const from = readFrames(facts, video, frames, clock);
  const own = assumeColour(video.colour, facts.height);
  const toneMap = planToneMap(request, { ...own, range: from.sampling.range });
  const colour = toneMap ? STANDARD_COLOUR : own;
  const seconds = clock.secondsOf(frames.inFrame + frames.frameCount) - clock.secondsOf(frames.inFrame);
  const shape = pixelAspect && !sameRational(pixelAspect, SQUARE) ? { pixelAspect } : {};
  const other = rate && { rate, count: Math.max(1, Math.round(seconds * toNumber(rate))) };
  const ofFields = fieldRate(facts);
  const comparedAt = leftOf(facts, preparation);
  const { denoise } = preparation;
  const sampling = toneMap ? STANDARD_SAMPLING : { ...from.sampling, matrix: own.matrix };
  const adjust = planAdjust(request, sampling);
  const pad = planPad(request, comparedAt, colour);
  const inside = pad ? pad.inside : size;
  const drawn = planDrawn(request, from, { comparedAt, inside, sampling: adjust ? limited(sampling) : sampling });
  const prepared = prepare(preparation, rate !== null && ofFields !== null && sameRational(rate, ofFields));
  return {
    from,
    chain: [
      ...prepared,
      ...(other
        ? [retimed({ ...from, chain: prepared }, clock, other.rate, frames.inFrame, { first: 0, count: other.count })]
        : []),
      {
        step: 'scale',
        size: inside,
        from: from.sampling,
        to: { matrix: own.matrix, range: toneMap || adjust || drawn.length > 0 ? from.sampling.range : 'limited' },
      },
      // Afterwards, since it takes its time with every pixel.
      ...(toneMap ? [toneMap] : []),
      ...(denoise > 0 ? [{ step: 'denoise' as const, strength: denoise, format: workingFormat(format) }] : []),
      ...(adjust ? [adjust] : []),
      ...drawn,
      ...(pad ? [pad] : []),
      { step: 'store', format, ...shape },
      { step: 'tag', colour },
      { step: 'stamp', rate: rate ?? (from.constantRate ? from.frameRate : null) },
    ],
    comparedAt,
    out: {
      size,
      frameRate: rate ?? from.frameRate,
      constantRate: rate !== null || from.constantRate,
      colour,
      range: 'limited',
      format,
      ...shape,
      ...(other
        ? timeFrames({ inFrame: 0, frameCount: other.count }, constantClock(other.rate, other.count))
        : timeFrames(frames, clock)),
    },
  };
}

/** Frames of a result, from its first. */
export interface FrameSpan {
  readonly first: number;
  readonly count: number;
}

/**
 * The step that gives frames another rate, for some of the result's.
 *
 * @param source - Where they are read, and what they go through before.
 */
function retimed(
  { inFrame, frameRate, constantRate, chain }: PictureSource & Pick<PicturePath, 'chain'>,
  clock: FrameClock,
  rate: Rational,
  wholeIn: number,
  { first, count }: FrameSpan,
): Retime {
  const times = framesPerFrame(chain);
  const read = constantRate
    ? { rate: rational(frameRate.num * times, frameRate.den), frame: (inFrame - wholeIn) * times }
    : { seconds: clock.secondsOf(inFrame) - clock.secondsOf(wholeIn) };
  return { step: 'retime', rate, frames: count, first, read };
}

/** Which of a programme's frames a path shows. */
export function framesOf({ from, chain }: Pick<PicturePath, 'from' | 'chain'>, clock: FrameClock): FrameMap {
  const step = retimeOf(chain);
  return step
    ? retimedFrames(clock, from, step.rate, from.constantRate ? from.frameRate : null)
    : sameFrames(from.inFrame);
}

/** When each frame of a result is shown, from its first. */
export function resultClock({ from, out }: Pick<PicturePath, 'from' | 'out'>, clock: FrameClock): FrameClock {
  return out.constantRate ? constantClock(out.frameRate, out.frameCount) : portionClock(clock, from.inFrame);
}

/** The same way for some of the result's frames. */
export function takeFrames<Path extends PicturePath>(
  facts: ProgrammeFacts,
  clock: FrameClock,
  path: Path,
  span: FrameSpan,
): Path {
  if (!facts.video) throw new Error('A programme without a picture has no frames.');
  const { toSource } = framesOf(path, clock);
  const before = Math.min(leadFrames(path.chain), span.first);
  const read = { first: span.first - before, count: before + span.count };
  const inFrame = toSource(read.first);
  const frameCount = toSource(span.first + span.count - 1) - inFrame + 1;
  const from = readFrames(facts, facts.video, { inFrame, frameCount }, clock);
  const led = leavingOut(path.chain, before);
  const step = retimeOf(path.chain);
  if (!step) {
    const frames = { inFrame: toSource(span.first), frameCount: span.count };
    const at = path.out.constantRate
      ? { rate: path.out.frameRate, frame: span.first }
      : { seconds: clock.secondsOf(frames.inFrame) - clock.secondsOf(path.from.inFrame) };
    return { ...path, from, chain: drawnFrom(led, at), out: { ...path.out, ...timeFrames(frames, clock) } };
  }
  const again = retimed({ ...from, chain: path.chain }, clock, step.rate, path.from.inFrame, read);
  const own = { inFrame: span.first, frameCount: span.count };
  return {
    ...path,
    from,
    chain: drawnFrom(led, { rate: step.rate, frame: span.first }).map((one) => (one === step ? again : one)),
    out: { ...path.out, ...timeFrames(own, constantClock(step.rate, path.out.frameCount)) },
  };
}

/**
 * The steps that make a master's frames ready to be scaled or compared; none when nothing is to be done.
 *
 * @param eachField - Whether each field that is taken apart is to be a frame.
 */
export function prepare(
  { deinterlace, crop, rotate, flip }: Pick<Preparation, 'deinterlace' | 'crop' | 'rotate' | 'flip'>,
  eachField: boolean,
): PictureStep[] {
  const frames = eachField ? { eachField } : {};
  return [
    ...(deinterlace ? [{ step: 'deinterlace' as const, fields: deinterlace, ...frames }] : []),
    ...(crop ? [{ step: 'crop' as const, edges: crop }] : []),
    ...(rotate || flip ? [{ step: 'turn' as const, degrees: rotate, flip }] : []),
  ];
}

/** What stands beside a picture in its frame; null where it has the frame's own shape. */
function planPad(
  { video, size, preparation: { pad, rotate }, pixelAspect, format }: PathRequest,
  picture: FrameSize,
  colour: Colour,
): Pad | null {
  if (!pad) return null;
  const isStretched = !pixelAspect || sameRational(pixelAspect, SQUARE);
  const inside = insideOf(size, picture, isStretched ? turnedAspect(video.pixelAspect, rotate) : SQUARE);
  const isFull = inside.width === size.width && inside.height === size.height;
  return isFull ? null : padTo(size, inside, pad.with, colour, format);
}

/** The picture that is drawn into. */
interface DrawnInto {
  readonly comparedAt: FrameSize;
  /** As it goes into the encoder, without what is beside it. */
  readonly inside: FrameSize;
  readonly sampling: Sampling;
}

/** What is drawn into a picture: captions from the first frame on, and then a mark. */
function planDrawn(
  { video, captions = null, mark = null, rate, format, preparation }: PathRequest,
  { constantRate, frameRate }: PictureSource,
  { comparedAt, inside, sampling }: DrawnInto,
): PictureStep[] {
  const shape = shapeOf(comparedAt, turnedAspect(video.pixelAspect, preparation.rotate));
  const at = rate || constantRate ? { rate: rate ?? frameRate, frame: 0 } : { seconds: 0 };
  const common = { shape, format: workingFormat(format) };
  const before = captions === null ? sampling : limited(sampling);
  return [
    ...(captions === null ? [] : [{ step: 'captions' as const, number: captions, at, ...common, from: sampling }]),
    ...(mark ? [{ step: 'mark' as const, ...mark, picture: inside, ...common, from: before }] : []),
  ];
}

function limited(sampling: Sampling): Sampling {
  return { ...sampling, range: 'limited' };
}

/** How light and colour are bent; null where they stay. */
function planAdjust({ preparation, format }: PathRequest, from: Sampling): Adjust | null {
  const wanted = preparation.adjust;
  return wanted && adjusts(wanted) ? { step: 'adjust', ...wanted, from, format: workingFormat(format) } : null;
}

function planToneMap({ video, preparation, format }: PathRequest, from: ToneMap['from']): ToneMap | null {
  if (preparation.dynamicRange === 'source' || !isHighDynamicRange(video)) return null;
  const { chroma, alpha } = partsOf(format);
  return { step: 'toneMap', from, format: pixelFormat(chroma, 10, alpha), peak: peakOf(video) };
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
