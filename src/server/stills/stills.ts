import path from 'node:path';
import { framesOf, resultClock, samplingOf } from '../../core/plan/planPicture.ts';
import type { ProgrammeFacts, VideoFacts } from '../../core/programme/facts.ts';
import { openAtFrame } from '../../core/programme/opening.ts';
import { shapeOf, type FrameSize } from '../../core/geometry/frameSize.ts';
import {
  framesPerFrame,
  leadFrames,
  referenceChain,
  referenceSampling,
  unpadding,
  type PictureStep,
} from '../../core/picture/chain.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { isEncoded, pictureOf, soundsOf, type EncodePlan, type PicturePath } from '../../core/plan/encodePlan.ts';
import { SOUND } from '../../core/sound/codecs.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import { rational } from '../../core/timing/rational.ts';
import type { StillRequest } from '../../engine/arguments/still.ts';
import { createDiskCache } from '../cache/diskCache.ts';
import type { Context } from '../context.ts';
import { identityOf, requireUnchanged, withMaster } from '../programmes/masters.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { planWith } from '../renditions/planning.ts';
import { findRendition } from '../renditions/renditions.ts';
import { withResult } from '../renditions/results.ts';
import { findTriedStill, type TriedPoint } from '../trials/triedPicture.ts';
import type { Turns } from '../turns.ts';

/** Lends a path for as long as the work takes. */
type Lend = (work: (path: string) => Promise<Buffer>) => Promise<Buffer>;

/** Pictures kept on disk; the least recently seen go first. */
const CACHE_LIMIT_BYTES = 512_000_000;

/** Exact frames as PNG, kept for the next look; work is ended when nobody waits for it any more. */
export interface Stills {
  /** A frame of a master, at its own frame size or at a given width for lists. */
  ofProgramme(id: string, frame: number, width: number | null, signal: AbortSignal): Promise<Buffer>;
  /** A frame of a result, brought to the master's frame size as the measurement does. */
  ofRendition(id: string, frame: number, signal: AbortSignal): Promise<Buffer>;
  /** A frame of a programme as a point of its latest trial makes it, at the master's frame size. */
  ofTried(programmeId: string, point: TriedPoint, frame: number, signal: AbortSignal): Promise<Buffer>;
  /** A frame of a programme as an order of the whole has it go into its encoder, at the order's frame size. */
  ofOrder(programmeId: string, recipe: Recipe, frame: number, signal: AbortSignal): Promise<Buffer>;
  /** What that frame was made from: the master's frame, cropped and deinterlaced as the rendition is. */
  ofMasterOf(renditionId: string, frame: number, signal: AbortSignal): Promise<Buffer>;
}

/** @param turns - Shared with everything else that a page waits for. */
export function createStills(context: Context, turns: Turns): Stills {
  const folder = path.join(context.config.dataFolder, 'cache', 'stills');
  const cache = createDiskCache(folder, 'png', CACHE_LIMIT_BYTES, context.now);
  /** @param use - Lends the file that the frame is taken from, by a path that stays that file's. */
  const get = (request: StillRequest, version: string, use: Lend, asker: AbortSignal) =>
    cache.get(
      [request, version],
      (signal) => turns.take(() => use((path) => context.engine.still({ ...request, path }, signal)), signal),
      asker,
    );
  return {
    ofProgramme: async (id, frame, width, signal) => {
      const programme = await findProgramme(context, id);
      const { facts } = programme;
      const master = identityOf(programme);
      await requireUnchanged(master);
      requireFrame(frame, facts.frameCount);
      const size = width === null ? null : thumbnailSize(facts, width);
      const request = masterRequest(programme.path, facts, await readClock(context, programme), frame, size);
      return get(request, programme.modified_at.toISOString(), (work) => withMaster(master, work), signal);
    },
    ofRendition: async (id, frame, signal) => {
      const rendition = await findRendition(context, id);
      const picture = pictureOf(rendition.plan);
      const programme = await findProgramme(context, rendition.programme_id);
      if (!picture || !rendition.has_file) throw new Refusal('not-found', 'This rendition has no picture to show.');
      const { out, comparedAt } = picture;
      requireFrame(frame, out.frameCount);
      // What was copied begins wherever its master's streams do.
      const isExact = isEncoded(picture) && (out.constantRate || programme.facts.video?.seeksExactly === true);
      const clock = resultClock(picture, await readClock(context, programme));
      const request: StillRequest = {
        path: rendition.path,
        streamIndex: 0,
        frame,
        opening: openAt(
          { seeksExactly: isExact, seekLeadSeconds: 0, startSeconds: leadOf(rendition.plan) },
          clock,
          frame,
          0,
        ),
        chain: unpadding(picture.chain),
        sampling: { matrix: out.colour.matrix, range: out.range },
        size: comparedAt,
      };
      return get(request, String(rendition.finished_at?.toISOString()), (work) => withResult(rendition, work), signal);
    },
    ofTried: async (programmeId, point, frame, signal) => {
      const request = await turns.take(() => findTriedStill(context, programmeId, point, frame, signal), signal);
      return get(request, '', (work) => work(request.path), signal);
    },
    ofOrder: async (id, recipe, frame, signal) => {
      const programme = await findProgramme(context, id);
      requireFrame(frame, programme.facts.frameCount);
      const plan = await planWith(context, programme, { recipe, portion: null }, null);
      const picture = pictureOf(plan);
      if (!picture) throw new Refusal('no-picture', 'This order has sound only; there is no frame to show.');
      const clock = await readClock(context, programme);
      const shown = framesOf(picture, clock).toResult(frame);
      const request = orderedRequest(programme.path, programme.facts, clock, picture, shown);
      const version = programme.modified_at.toISOString();
      return get(request, version, (work) => withMaster(identityOf(programme), work), signal);
    },
    ofMasterOf: async (id, frame, signal) => {
      const rendition = await findRendition(context, id);
      const picture = pictureOf(rendition.plan);
      if (!picture) throw new Refusal('not-found', 'This rendition has no picture to show.');
      const programme = await findProgramme(context, rendition.programme_id);
      const master = identityOf(programme);
      await requireUnchanged(master);
      requireFrame(frame, picture.out.frameCount);
      const clock = await readClock(context, programme);
      const request = preparedRequest(programme.path, programme.facts, clock, picture, frame, null);
      return get(request, programme.modified_at.toISOString(), (work) => withMaster(master, work), signal);
    },
  };
}

/** When the picture of a result begins, counted from the earliest of its streams. */
function leadOf(plan: EncodePlan): number {
  return Math.max(0, ...soundsOf(plan).map(({ do: { codec } }) => SOUND[codec].leadSeconds[plan.container] ?? 0));
}

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

/** A frame as it goes into an encoder. */
function orderedRequest(
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
  const chain = wanted.chain.filter(({ step }) => !OF_TIMES.has(step));
  const neighbours = chain.some(({ step }) => step === 'deinterlace') ? NEIGHBOURS : 0;
  const wantedBefore = Math.max(leadFrames(chain), neighbours);
  const opening = openAt(requireVideo(facts), clock, shown, Math.min(wantedBefore, shown - path.from.inFrame));
  // Of a frame whose fields are frames each, the wanted one.
  const times = framesPerFrame(chain);
  const framesBefore = opening.framesBefore * times + (times > 1 ? frame - toResult(shown) : 0);
  const request = masterRequest(file, facts, clock, shown, wanted.size);
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

function requireFrame(frame: number, count: number): void {
  if (!Number.isInteger(frame) || frame < 0 || frame >= count) {
    throw new Refusal('frame-outside', `There is no frame ${frame}; frames run from 0 to ${Math.max(0, count - 1)}.`, {
      field: 'frame',
    });
  }
}
