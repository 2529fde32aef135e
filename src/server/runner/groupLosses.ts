import { isInReach } from '../../core/budget/fillCap.ts';
import { baseOf } from '../../core/budget/groupStock.ts';
import type { WeighedPass } from '../../core/budget/weighed.ts';
import type { EncodedPicture } from '../../core/plan/encodePlan.ts';
import { lossesOfGroups } from '../../core/quality/groupLoss.ts';
import type { Bytes } from '../../core/units.ts';
import type { GroupListing } from '../../engine/parsing/groups.ts';
import { optionsOf, type EncodeJob } from './encodeJob.ts';

/**
 * Measures what each group of pictures loses in the encode nearest to a cap, once it is worth knowing.
 *
 * @returns null while the cap is out of reach of the groups.
 */
export function createLosses(job: EncodeJob, picture: EncodedPicture, passes: readonly WeighedPass[]) {
  return async (cap: Bytes, { groups }: GroupListing): Promise<readonly number[] | null> => {
    const base = baseOf(cap, passes);
    if (!base || !isInReach(cap, passes)) return null;
    const part = passes.indexOf(base);
    return job.journal.step(
      `losses ${part}`,
      base.quality,
      () => [],
      async () => {
        const options = optionsOf(job, job.enter('checking', picture.out.frameCount));
        const [frames = []] = await job.engine.compare(job.source, [{ picture, file: job.temporary(part) }], options);
        await job.onMeasured?.(base.quality, groups, frames);
        return lossesOfGroups(
          frames,
          groups.map((group) => group.frames),
        );
      },
    );
  };
}
