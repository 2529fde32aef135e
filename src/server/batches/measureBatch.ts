import type { BatchPlan } from '../../contract/batch.ts';
import { soundingOf } from '../../contract/sounding.ts';
import type { Context } from '../context.ts';
import type { Scheduler } from '../jobs/scheduler.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';
import { askSoundingLater } from '../soundings/soundings.ts';
import { tryForLevel } from './levelBatch.ts';

/**
 * Asks for what a batch is not foreseen by yet: a trial of every file where they are to be equally good, otherwise a sounding of
 * every file whose size is unknown; what cannot be measured is left unknown. The caller wakes the scheduler.
 */
export async function measureBatch(
  context: Context,
  scheduler: Scheduler,
  { rows, together }: BatchPlan,
): Promise<void> {
  // The rows of a plan are bent already.
  if (together && 'decibels' in together)
    return tryForLevel(
      context,
      scheduler,
      rows.filter(({ state }) => state === 'ready'),
    );
  const isShared = together !== null && together.unknown > 0;
  for (const { state, isLeftOut, expected, isGuess, programmeId, recipe, portion } of rows) {
    // A size that is given hides that nothing is known of what it would take.
    if (state !== 'ready' || isLeftOut || (expected !== null && !isGuess && !isShared)) continue;
    const { facts } = await findProgramme(context, programmeId);
    const wanted = soundingOf(facts, recipe, portion);
    if (!wanted) continue;
    // Only a cap that is shared out has to know what every quality takes.
    await askSoundingLater(context, programmeId, wanted, !isShared).catch((error: unknown) => {
      if (!isRefusal(error)) throw error;
    });
  }
}
