import { mkdir, rm } from 'node:fs/promises';
import path from 'node:path';
import { framesOf } from '../../core/plan/planPicture.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import type { StillRequest } from '../../engine/arguments/still.ts';
import { findDrawn } from '../drawn/findDrawn.ts';
import { placeDrawn, type Drawn } from '../drawn/readDrawn.ts';
import { createDiskCache } from '../cache/diskCache.ts';
import type { Context } from '../context.ts';
import { identityOf, requireUnchanged, withMaster } from '../programmes/masters.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { planWith } from '../renditions/planning.ts';
import { findRendition } from '../renditions/renditions.ts';
import { withResult } from '../renditions/results.ts';
import { findTriedStill, type TriedPoint } from '../trials/triedPicture.ts';
import type { Turns } from '../turns.ts';
import { masterRequest, orderedRequest, preparedRequest, resultRequest, thumbnailSize } from './stillRequests.ts';

/** Lends a path for as long as the work takes, and a folder to work in where something lies ready for it. */
type Lend = (work: (path: string, at?: Pick<StillRequest, 'workingFolder'>) => Promise<Buffer>) => Promise<Buffer>;

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
      (signal) =>
        turns.take(() => use((path, at) => context.engine.still({ ...request, path, ...at }, signal)), signal),
      asker,
    );
  const getPlanned = async (request: StillRequest, programme: ProgrammeRow, plan: EncodePlan, asker: AbortSignal) => {
    const { version, lend } = await lendPlanned(context, programme, plan, request, asker);
    return get(request, version, lend, asker);
  };
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
      requireFrame(frame, picture.out.frameCount);
      const clock = await readClock(context, programme);
      const request = resultRequest(rendition, programme.facts, clock, picture, frame);
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
      return getPlanned(request, programme, plan, signal);
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
      return getPlanned(request, programme, rendition.plan, signal);
    },
  };
}

/** Lends a master for frames of it as a plan has them, what is drawn in beside it. */
async function lendPlanned(
  context: Context,
  programme: ProgrammeRow,
  plan: EncodePlan,
  { chain }: StillRequest,
  asker: AbortSignal,
) {
  const drawn = await findDrawn(context, programme, plan, chain, asker);
  const isDrawn = drawn.captions !== null || drawn.mark !== null;
  const lend: Lend = (work) => withMaster(identityOf(programme), work);
  return {
    version: `${programme.modified_at.toISOString()}${isDrawn ? JSON.stringify(drawn) : ''}`,
    lend: isDrawn ? besideDrawn(context, drawn, lend) : lend,
  };
}

/** Lends a folder besides in which lies what is drawn in. */
function besideDrawn({ config, newId }: Context, drawn: Drawn, lend: Lend): Lend {
  return (work) =>
    lend(async (source) => {
      const workingFolder = path.join(config.dataFolder, 'work', `still-${newId()}`);
      await mkdir(workingFolder, { recursive: true });
      try {
        await placeDrawn(drawn, workingFolder);
        return await work(source, { workingFolder });
      } finally {
        await rm(workingFolder, { recursive: true, force: true });
      }
    });
}

function requireFrame(frame: number, count: number): void {
  if (!Number.isInteger(frame) || frame < 0 || frame >= count) {
    throw new Refusal('frame-outside', `There is no frame ${frame}; frames run from 0 to ${Math.max(0, count - 1)}.`, {
      field: 'frame',
    });
  }
}
