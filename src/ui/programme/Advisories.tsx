import { Check } from 'lucide-react';
import type { AnalysisView, ProgrammeView } from '../../contract/views.ts';
import type { Fix, ProgrammeAdvisory } from '../../core/advice/advisory.ts';
import { isApplied, type OrderState } from '../../core/advice/applyFix.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { Notice } from '../kit/Notice.tsx';
import type { Timeline } from '../player/timeline.ts';

const KIND = { serious: 'wrong', caution: 'caution', note: 'note' } as const;

interface Props {
  readonly programme: ProgrammeView;
  readonly analysis: AnalysisView | undefined;
  readonly timeline: Timeline;
  /** What is ordered so far: what it does already is not offered again. */
  readonly order: OrderState;
  readonly onFix: (fix: Fix) => void;
  readonly onWithdraw: (fix: Fix) => void;
  readonly onPlace: (frame: number) => void;
  readonly onRetry: () => void;
}

/** What should be known about the programme before it is encoded; what can be done about it is a key away. */
export function Advisories(props: Props) {
  const { programme, analysis, order, onFix } = props;
  const open = (analysis?.advisories ?? []).flatMap(({ fix }) =>
    fix && !isApplied(programme, fix, order) ? [fix] : [],
  );
  useActKey('1,2,3,4,5,6,7,8,9', ({ key }) => {
    const fix = open[Number(key) - 1];
    if (fix) onFix(fix);
  });
  if (!analysis) return null;
  const { advisories, state, problem } = analysis;
  return (
    <section aria-labelledby="advisories-heading" data-testid="advisories">
      <h2 id="advisories-heading" className="mb-1 font-semibold">
        {headingOf(advisories.length, state === 'done')}
      </h2>
      {problem && (
        <Notice kind="wrong" role="alert">
          {problem.message}{' '}
          <button type="button" className="underline" onClick={props.onRetry}>
            Try again
          </button>
        </Notice>
      )}
      <ul className="space-y-1.5">
        {advisories.map((advisory) => (
          <li key={advisory.code} data-code={advisory.code}>
            <Notice kind={KIND[advisory.severity]}>
              {advisory.message} <span className="text-quiet">{advisory.remedy}</span>
              <Places {...props} advisory={advisory} />
              {advisory.fix && <FixKey {...props} fix={advisory.fix} number={open.indexOf(advisory.fix) + 1} />}
            </Notice>
          </li>
        ))}
      </ul>
    </section>
  );
}

function headingOf(count: number, isDone: boolean): string {
  if (count === 0) return isDone ? 'Nothing wrong was found' : 'Nothing wrong so far';
  return count === 1 ? 'One thing to know' : `${count} things to know`;
}

/** Where it is to be seen; a press leads there. */
function Places({ advisory, timeline, onPlace }: Props & { readonly advisory: ProgrammeAdvisory }) {
  const { places = [] } = advisory;
  if (places.length === 0) return null;
  return (
    <span className="mt-0.5 flex flex-wrap gap-x-3">
      {places.map((frame) => (
        <button
          key={frame}
          type="button"
          onClick={() => onPlace(frame)}
          aria-label={`Go to ${timeline.name(frame)}`}
          className="figure text-measured underline underline-offset-2"
        >
          {timeline.name(frame)}
        </button>
      ))}
    </span>
  );
}

/** @param number - Its key; 0 when the order does it already. */
function FixKey({ fix, number, onFix, onWithdraw }: Props & { readonly fix: Fix; readonly number: number }) {
  if (number === 0) {
    return (
      <div className="mt-1 flex items-center gap-3" data-testid="fix-done">
        <span className="text-measured inline-flex items-center gap-1 font-semibold">
          <Check aria-hidden="true" size={16} /> Done: {fix.label.charAt(0).toLowerCase() + fix.label.slice(1)}
        </span>
        <Button look="quiet" onClick={() => onWithdraw(fix)}>
          Undo it
        </Button>
      </div>
    );
  }
  return (
    <div className="mt-1">
      <Button {...(number < 10 ? { hotkey: String(number) } : {})} onClick={() => onFix(fix)}>
        {fix.label}
      </Button>
    </div>
  );
}
