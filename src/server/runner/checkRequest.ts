import type { Brief } from '../../core/brief/brief.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import type { EncodePlan } from '../../core/plan/encodePlan.ts';
import type { Engine } from '../../engine/engine.ts';

/** What a check is given. */
export interface CheckRequest {
  readonly engine: Engine;
  readonly plan: EncodePlan;
  /** The master's. */
  readonly facts: ProgrammeFacts;
  readonly clock: FrameClock;
  readonly source: string;
  readonly result: string;
  /** Where what was drawn in lies. */
  readonly workingFolder: string;
  /** Frames that decoded while measuring; null for a sound-only rendition. */
  readonly decodedFrames: number | null;
  /** What the receiver asks for, and what the file will be called; or null. */
  readonly brief: { readonly brief: Brief; readonly name: string } | null;
  readonly signal: AbortSignal;
}
