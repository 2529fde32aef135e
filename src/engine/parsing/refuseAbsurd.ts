import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { toNumber } from '../../core/timing/rational.ts';
import { EngineError } from '../engineError.ts';

/** What a header may claim before it is taken for damage: beyond this no encoder here could take the picture. */
const SIDES = [8, 16_384] as const;
const MOST_FRAMES_A_SECOND = 1000;

/**
 * Refuses facts that no camera or editor makes, before anything is sized by them.
 *
 * @throws EngineError `file-absurd`, with what the header claims.
 */
export function refuseAbsurd({ video, width, height, frameRate, durationSeconds }: ProgrammeFacts): void {
  if (!Number.isFinite(durationSeconds) || durationSeconds <= 0) {
    throw new EngineError(
      'file-absurd',
      'This file has no length: nothing in it is ever shown or heard. Export it again.',
    );
  }
  if (!video) return;
  if (Math.min(width, height) < SIDES[0] || Math.max(width, height) > SIDES[1]) {
    throw new EngineError(
      'file-absurd',
      `This file claims a frame size of ${width} × ${height}; from ${SIDES[0]} to ${SIDES[1]} pixels a side can be worked with. Its header may be damaged; export it again.`,
    );
  }
  if (toNumber(frameRate) > MOST_FRAMES_A_SECOND) {
    throw new EngineError(
      'file-absurd',
      `This file claims ${Math.round(toNumber(frameRate)).toLocaleString('en')} frames a second; at most ${MOST_FRAMES_A_SECOND} can be worked with. Its header may be damaged; export it again.`,
    );
  }
}
