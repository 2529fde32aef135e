import type { CameOut } from '../forecast/sizeRecord.ts';
import type { Findings } from '../analysis/conclude.ts';
import type { Portion, ProgrammeFacts } from '../programme/facts.ts';
import type { Recipe } from '../recipe/recipe.ts';
import type { Sounding } from '../sounding/sounding.ts';
import type { SoundCodec } from '../sound/codecs.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import type { VideoCodec } from '../video/codecs.ts';

/** As much of what the analysis found as plans are judged by. */
export type Found = Pick<Findings, 'scan' | 'loudness' | 'opaque'>;

/** What a plan is made from. */
export interface PlanRequest {
  readonly facts: ProgrammeFacts;
  readonly clock: FrameClock;
  readonly recipe: Recipe;
  /** null takes the whole programme. */
  readonly portion: Portion | null;
  /** Encoders this machine has. */
  readonly encoders: readonly (VideoCodec | SoundCodec)[];
  /** Codecs that encoders in this machine's hardware make; asked for where a recipe wants one. */
  readonly hardware?: readonly VideoCodec[];
  /** Measured for exactly this codec, frame size and portion, or null. */
  readonly sounding: Sounding | null;
  /** Frames at which a copy may begin, rising; asked for where a portion is copied, and null until it is known. */
  readonly cuts?: readonly number[] | null;
  /** Frames at which the programme's portions begin; asked for where keyframes are wanted there. */
  readonly portionIns?: readonly number[];
  /** What finished renditions of this programme came to; none where nobody asked. */
  readonly cameOut?: readonly CameOut[];
  /** What the analysis found; null while it is not known, and the file's tags have to do. */
  readonly found?: Found | null;
}
