import type { AnalysisView } from '../../contract/views.ts';
import type { Fix } from '../../core/advice/advisory.ts';
import { useActKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import { Notice } from '../kit/Notice.tsx';

const KIND = { serious: 'wrong', caution: 'caution', note: 'note' } as const;

interface Props {
  readonly analysis: AnalysisView | undefined;
  readonly onFix: (fix: Fix) => void;
  readonly onRetry: () => void;
}

/** What should be known about the programme before it is encoded; what can be done about it is a key away. */
export function Advisories({ analysis, onFix, onRetry }: Props) {
  const fixes = (analysis?.advisories ?? []).filter((advisory) => advisory.fix);
  useActKey('1,2,3,4,5,6,7,8,9', ({ key }) => {
    const fix = fixes[Number(key) - 1]?.fix;
    if (fix) onFix(fix);
  });
  if (!analysis) return null;
  const { advisories, state, problem } = analysis;
  return (
    <section aria-labelledby="advisories-heading" data-testid="advisories">
      <h2 id="advisories-heading" className="mb-1 font-semibold">
        {advisories.length === 0
          ? state === 'done'
            ? 'Nothing wrong was found'
            : 'Nothing wrong so far'
          : advisories.length === 1
            ? 'One thing to know'
            : `${advisories.length} things to know`}
      </h2>
      {problem && (
        <Notice kind="wrong" role="alert">
          {problem.message}{' '}
          <button type="button" className="underline" onClick={onRetry}>
            Try again
          </button>
        </Notice>
      )}
      <ul className="space-y-1.5">
        {advisories.map((advisory) => {
          const { code, severity, message, remedy, fix } = advisory;
          return (
            <li key={code}>
              <Notice kind={KIND[severity]}>
                {message} <span className="text-quiet">{remedy}</span>
                {fix && (
                  <div className="mt-1">
                    <Button hotkey={String(fixes.indexOf(advisory) + 1)} onClick={() => onFix(fix)}>
                      {fix.label}
                    </Button>
                  </div>
                )}
              </Notice>
            </li>
          );
        })}
      </ul>
    </section>
  );
}
