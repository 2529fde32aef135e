import type { BatchPlan } from '../../contract/batch.ts';
import { Figure } from '../budget/Figure.tsx';
import { Button } from '../kit/Button.tsx';
import { count } from '../kit/count.ts';
import { sayWhenDone } from '../kit/sayWhenDone.ts';
import { formatBytes, formatLength, formatWait } from '../kit/format.ts';

/** What a batch comes to: files, hours, bytes, work, and when it would be done. */
interface Props {
  readonly plan: BatchPlan;
  /** While another answer is underway. */
  readonly isOld: boolean;
  /** Measures what is not known of it. */
  readonly onMeasure: () => void;
}

export function BatchForeseen({ plan, isOld, onMeasure }: Props) {
  const { rows, files, expected, work, left, freeBytes, together } = plan;
  const isTried = together !== null && 'decibels' in together;
  const unmeasured = isTried ? together.unknown : expected.unknown;
  const without = rows.filter((row) => row.state === 'cannot' && !row.isLeftOut).length;
  const known = files - expected.unknown;
  const timed = files - work.unknown;
  const isTight = freeBytes !== null && expected.high > freeBytes;
  return (
    <section aria-label="What it comes to" aria-busy={isOld} data-testid="batch-foreseen">
      <dl className="border-rule mb-4 flex max-w-[60rem] flex-wrap justify-between gap-x-6 gap-y-2 border-y py-3">
        <Figure
          name="Files"
          value={String(files)}
          detail={isOld ? 'being planned …' : without > 0 ? `${without} cannot be made` : `of ${rows.length}`}
        />
        <Figure name="Of programme" value={formatLength(plan.programmeSeconds)} detail="" />
        <Figure
          name="Together about"
          value={known > 0 ? `${expected.unknown > 0 ? 'more than ' : ''}${formatBytes(expected.likely)}` : 'unknown'}
          detail={
            expected.unknown > 0
              ? `and ${count(expected.unknown, 'file', 'files')} not measured yet`
              : `${formatBytes(expected.low)} to ${formatBytes(expected.high)}`
          }
        />
        <Figure
          name="Work about"
          value={timed > 0 ? `${work.unknown > 0 ? 'more than ' : ''}${formatWait(work.likely)}` : 'unknown'}
          detail={
            work.unknown > 0
              ? `and ${count(work.unknown, 'file', 'files')} of a kind not made yet`
              : sayWhenDone(left, left.seconds > work.likely + 1 ? 'after what waits' : 'begun now')
          }
        />
        <Figure
          name="Room on the disk"
          value={freeBytes === null ? 'unknown' : formatBytes(freeBytes)}
          detail={isTight ? 'it may not be enough' : ''}
        />
      </dl>
      {plan.notLookedAt > 0 && (
        <p className="mb-3" data-testid="not-looked-at">
          {count(plan.notLookedAt, 'programme is', 'programmes are')} not analysed yet: bars, black ends, damage or
          missing sound {plan.notLookedAt === 1 ? 'of it' : 'of theirs'} are not told here until then.
        </p>
      )}
      {unmeasured > 0 && (
        <p className="mb-3">
          <Button onClick={onMeasure}>Measure the {unmeasured}</Button>{' '}
          <span className="text-quiet text-sm">
            {isTried
              ? 'Excerpts of each are encoded at three qualities and compared with their master.'
              : 'A few seconds of each are encoded quickly; the rest is worked out.'}
          </span>
        </p>
      )}
    </section>
  );
}
