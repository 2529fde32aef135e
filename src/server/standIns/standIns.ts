import path from 'node:path';
import { assumeColour } from '../../core/programme/colour.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { pieceOf } from '../../core/programme/standIn.ts';
import type { StandInRequest } from '../../engine/arguments/standIn.ts';
import { createDiskCache } from '../cache/diskCache.ts';
import type { Context } from '../context.ts';
import { identityOf, requireUnchanged } from '../programmes/masters.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { thumbnailSize } from '../stills/stills.ts';

const CACHE_LIMIT_BYTES = 2_000_000_000;

/** Wide enough to judge by, light enough to be made faster than it plays. */
const WIDEST = 854;

/** Light copies that stand in for masters no browser plays, piece by piece, made when they are asked for. */
export interface StandIns {
  /** @returns A fragmented MP4. */
  piece(programmeId: string, number: number): Promise<Buffer>;
}

export function createStandIns(context: Context): StandIns {
  const folder = path.join(context.config.dataFolder, 'cache', 'stand-ins');
  const cache = createDiskCache(folder, 'mp4', CACHE_LIMIT_BYTES, context.now);
  return {
    piece: async (programmeId, number) => {
      const programme = await findProgramme(context, programmeId);
      await requireUnchanged(identityOf(programme));
      const piece = pieceOf(programme.facts, number);
      if (!piece) throw new Refusal('not-found', `There is no piece ${number} of this programme.`);
      const request: StandInRequest = { source: programme.path, piece, ...tracksOf(programme.facts) };
      return cache.get([request, programme.modified_at], () => context.engine.standIn(request));
    },
  };
}

function tracksOf(facts: ProgrammeFacts): Pick<StandInRequest, 'picture' | 'sound'> {
  const { video, audio } = facts;
  const [track] = audio;
  return {
    picture: video && {
      streamIndex: video.index,
      startSeconds: video.startSeconds,
      frameRate: facts.frameRate,
      seeksExactly: video.seeksExactly,
      size: thumbnailSize(facts, Math.min(WIDEST, Math.max(2, Math.round(facts.width / 2) * 2))),
      colour: assumeColour(video.colour, facts.height),
      range: video.colour.range ?? 'limited',
    },
    sound: track ? { streamIndex: track.index, startSeconds: video?.startSeconds ?? track.startSeconds } : null,
  };
}
