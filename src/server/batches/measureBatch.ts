import type { BatchPlan } from '../../contract/batch.ts';
import { soundingOf } from '../../contract/sounding.ts';
import type { Context } from '../context.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';
import { askSoundingLater } from '../soundings/soundings.ts';

/**
 * Asks for a sounding of every file whose size is not foreseen yet; what cannot be measured is left unknown. The caller wakes the
 * scheduler.
 */
export async function measureBatch(context: Context, { rows, together }: BatchPlan): Promise<void> {
  const isShared = together !== null && together.unknown > 0;
  for (const { state, isLeftOut, expected, programmeId, recipe, portion } of rows) {
    // A size that is given hides that nothing is known of what it would take.
    if (state !== 'ready' || isLeftOut || (expected !== null && !isShared)) continue;
    const { facts } = await findProgramme(context, programmeId);
    const wanted = soundingOf(facts, recipe, portion);
    if (!wanted) continue;
    await askSoundingLater(context, programmeId, wanted).catch((error: unknown) => {
      if (!isRefusal(error)) throw error;
    });
  }
}
