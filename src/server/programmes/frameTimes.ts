import type { FrameTimesView } from '../../contract/views.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { programmeClock } from '../../core/programme/programmeClock.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import * as statements from '../../store/statements/programmes.ts';
import type { Context } from '../context.ts';
import { Refusal } from '../refusal.ts';

/** When the frames of a programme are shown. */
export async function readClock(
  context: Context,
  { id, facts }: { readonly id: string; readonly facts: ProgrammeFacts },
): Promise<FrameClock> {
  const times = facts.video?.constantRate === false ? (await viewFrameTimes(context, id)).seconds : null;
  return programmeClock(facts, times);
}

/** @throws Refusal `not-found`. */
export async function viewFrameTimes(context: Context, id: string): Promise<FrameTimesView> {
  const [row] = await context.database.query<{ frame_times: Uint8Array | null }>(statements.READ_FRAME_TIMES, [id]);
  if (!row) throw new Refusal('not-found', `There is no programme ${id}; it may have been forgotten.`);
  return { seconds: row.frame_times && unpackFrameTimes(row.frame_times) };
}

/** As 64-bit numbers, little end first. */
export function packFrameTimes(times: readonly number[]): Uint8Array {
  const packed = Buffer.alloc(times.length * 8);
  times.forEach((seconds, frame) => packed.writeDoubleLE(seconds, frame * 8));
  return packed;
}

/** The other way round. */
function unpackFrameTimes(packed: Uint8Array): number[] {
  const buffer = Buffer.from(packed);
  return Array.from({ length: buffer.length / 8 }, (_, frame) => buffer.readDoubleLE(frame * 8));
}
