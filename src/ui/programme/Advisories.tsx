import type { AnalysisView } from '../../contract/views.ts';
import type { Fix, Advisory } from '../../core/advice/advisory.ts';
import { Notice } from '../kit/Notice.tsx';
import type { Timeline } from '../player/timeline.ts';
import { AdvisoryNotice } from './AdvisoryNotice.tsx';

interface Props {
  readonly analysis: AnalysisView | undefined;
  readonly timeline: Timeline;
  /** The key of a fix; 0 when the order does it already. */
  readonly numberOf: (fix: Fix) => number;
  readonly onFix: (fix: Fix) => void;
  readonly onWithdraw: (fix: Fix) => void;
  readonly onPlace: (frame: number) => void;
  readonly onRetry: () => void;
}

/** What should be known about the programme before it is encoded; what can be done about it is a key away. */
export function Advisories(props: Props) {
  const { analysis, numberOf, onFix, onWithdraw } = props;
  if (!analysis) return null;
  const { advisories, state, problem } = analysis;
  return (
    <section aria-labelledby="advisories-heading" data-testid="advisories">
      <h2 id="advisories-heading" className="mb-1 font-semibold">
        {headingOf(advisories.length, state)}
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
            <AdvisoryNotice
              advisory={advisory}
              number={advisory.fix ? numberOf(advisory.fix) : 0}
              onFix={onFix}
              onWithdraw={onWithdraw}
            >
              <Places {...props} advisory={advisory} />
            </AdvisoryNotice>
          </li>
        ))}
      </ul>
    </section>
  );
}

function headingOf(count: number, state: AnalysisView['state']): string {
  if (count === 0 && state === 'failed') return 'Not everything is known';
  if (count === 0) return state === 'done' ? 'Nothing wrong was found' : 'Nothing wrong so far';
  return count === 1 ? 'One thing to know' : `${count} things to know`;
}

/** Where it is to be seen; a press leads there. */
function Places({ advisory, timeline, onPlace }: Props & { readonly advisory: Advisory }) {
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
