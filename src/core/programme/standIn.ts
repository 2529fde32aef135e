import type { ProgrammeFacts } from './facts.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import { toNumber } from '../timing/rational.ts';

/** A piece of a stand-in is this long: short enough to be there soon, long enough to play without a seam in sight. */
const PIECE_SECONDS = 6;

/**
 * What a light copy is: pieces of this kind browsers put together while they come. Sound without loss, since it begins exactly
 * where it should.
 */
export const LIGHT_COPY = { format: 'mp4', picture: 'avc1.42E01F', sound: 'flac' } as const;

/** Its MIME type with its codecs (RFC 6381). */
export function lightCopyType({ video, audio }: Pick<ProgrammeFacts, 'video' | 'audio'>): string {
  const codecs = [...(video ? [LIGHT_COPY.picture] : []), ...(audio.length > 0 ? [LIGHT_COPY.sound] : [])].join(', ');
  return `${video ? 'video' : 'audio'}/${LIGHT_COPY.format}; codecs="${codecs}"`;
}

/** One piece of the light copy that stands in for a master no browser plays. */
export interface StandInPiece {
  readonly inFrame: number;
  /** 0 for sound only. */
  readonly frameCount: number;
  readonly startSeconds: number;
  readonly seconds: number;
}

/** Frames of a whole piece; 1 for sound only, where pieces are counted in seconds. */
function pieceFrames(facts: ProgrammeFacts): number {
  return Math.max(1, Math.round(PIECE_SECONDS * toNumber(facts.frameRate)));
}

/** How many pieces a programme has. */
export function countPieces(facts: ProgrammeFacts): number {
  const pieces = facts.video ? facts.frameCount / pieceFrames(facts) : facts.durationSeconds / PIECE_SECONDS;
  return Math.max(1, Math.ceil(pieces));
}

/**
 * A piece by its number from 0.
 *
 * @returns null outside the programme.
 */
export function pieceOf(facts: ProgrammeFacts, clock: FrameClock, number: number): StandInPiece | null {
  if (number < 0 || number >= countPieces(facts)) return null;
  if (!facts.video) {
    const startSeconds = number * PIECE_SECONDS;
    const seconds = Math.min(PIECE_SECONDS, facts.durationSeconds - startSeconds);
    return { inFrame: 0, frameCount: 0, startSeconds, seconds };
  }
  const inFrame = number * pieceFrames(facts);
  const frameCount = Math.min(pieceFrames(facts), facts.frameCount - inFrame);
  return {
    inFrame,
    frameCount,
    startSeconds: clock.secondsOf(inFrame),
    seconds: clock.secondsOf(inFrame + frameCount) - clock.secondsOf(inFrame),
  };
}

/** The piece that shows a moment. */
export function pieceAt(facts: ProgrammeFacts, clock: FrameClock, seconds: number): number {
  const piece = facts.video ? clock.frameAt(seconds) / pieceFrames(facts) : seconds / PIECE_SECONDS;
  return Math.min(countPieces(facts) - 1, Math.max(0, Math.floor(piece)));
}
