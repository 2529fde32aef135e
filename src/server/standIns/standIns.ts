import path from 'node:path';
import { AS_IT_IS } from '../../core/geometry/preparation.ts';
import type { PicturePath } from '../../core/plan/encodePlan.ts';
import { listenTo } from '../../core/programme/channelTracks.ts';
import { LIGHT_COPY, pieceOf, type StandInPiece } from '../../core/programme/standIn.ts';
import { planPicture } from '../../core/plan/planPicture.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import type { StandInRequest } from '../../engine/arguments/standIn.ts';
import { createDiskCache } from '../cache/diskCache.ts';
import type { Context } from '../context.ts';
import { identityOf, requireUnchanged, withMaster } from '../programmes/masters.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { thumbnailSize } from '../stills/stillRequests.ts';
import type { Turns } from '../turns.ts';

const CACHE_LIMIT_BYTES = 2_000_000_000;

/** Wide enough to judge by, light enough to be made faster than it plays. */
const WIDEST = 854;

/** Light copies that stand in for masters no browser plays, piece by piece, made when they are asked for. */
export interface StandIns {
  /** Of its pieces. */
  readonly mime: string;
  /** @returns A fragmented MP4. */
  piece(programmeId: string, number: number, signal: AbortSignal): Promise<Buffer>;
}

/** @param turns - Shared with everything else that a page waits for. */
export function createStandIns(context: Context, turns: Turns): StandIns {
  const folder = path.join(context.config.dataFolder, 'cache', 'stand-ins');
  const cache = createDiskCache(folder, LIGHT_COPY.format, CACHE_LIMIT_BYTES, context.now);
  return {
    mime: `video/${LIGHT_COPY.format}`,
    piece: async (programmeId, number, asker) => {
      const programme = await findProgramme(context, programmeId);
      const master = identityOf(programme);
      await requireUnchanged(master);
      const clock = await readClock(context, programme);
      const piece = pieceOf(programme.facts, clock, number);
      if (!piece) throw new Refusal('not-found', `There is no piece ${number} of this programme.`);
      const request = requestFor(programme, clock, piece);
      return cache.get(
        [request, programme.modified_at],
        (signal) =>
          turns.take(
            () => withMaster(master, (source) => context.engine.standIn({ ...request, source }, signal)),
            signal,
          ),
        asker,
      );
    },
  };
}

function requestFor({ path: source, facts }: ProgrammeRow, clock: FrameClock, piece: StandInPiece): StandInRequest {
  const { video } = facts;
  const width = Math.min(WIDEST, Math.max(2, Math.round(facts.width / 2) * 2));
  return {
    source,
    piece,
    picture:
      video &&
      asItLooks(
        planPicture({
          facts,
          video,
          clock,
          frames: piece,
          size: thumbnailSize(facts, width),
          preparation: AS_IT_IS,
          format: '420p8',
          rate: null,
        }),
      ),
    sound: listenTo(facts),
  };
}

/** A stand-in shows the master as it is; only the combs of frames marked as fields are taken out. */
function asItLooks(path: PicturePath): PicturePath {
  return { ...path, chain: [{ step: 'deinterlace', fields: 'where-marked' }, ...path.chain] };
}
