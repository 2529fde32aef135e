import type { TrialView } from '../../contract/trial.ts';
import { VIDEO } from '../../core/video/codecs.ts';
import { Button } from '../kit/Button.tsx';
import { formatWait } from '../kit/format.ts';
import { Notice } from '../kit/Notice.tsx';
import { ProgressBar } from '../kit/ProgressBar.tsx';

/** How far a trial is, how it ended, and what could not be tried. */
export function TrialStanding({ trial, onStop }: { readonly trial: TrialView; readonly onStop: () => void }) {
  const isUnderway = trial.state === 'waiting' || trial.state === 'running';
  return (
    <div className="mt-2 max-w-[60rem]" data-testid="trial-standing">
      {isUnderway && (
        <div className="flex flex-wrap items-center gap-3">
          <ProgressBar fraction={trial.fraction} label="Trial" className="h-2 w-60" />
          <span className="figure text-sm">{Math.floor(trial.fraction * 100)} %</span>
          <span className="text-quiet text-sm">{standingText(trial)}</span>
          <Button look="quiet" onClick={onStop}>
            Stop
          </Button>
        </div>
      )}
      {trial.state === 'stopped' && (
        <p className="text-quiet text-sm">Stopped; what was tried is kept, and goes on when it is started again.</p>
      )}
      {trial.problem && (
        <Notice kind="wrong" role="alert">
          {trial.problem.message}
        </Notice>
      )}
      {trial.gaps.map(({ codec, width, height, quality, reason }) => (
        <Notice key={`${codec}${width}${quality}`} kind="note">
          {VIDEO[codec].name} at {width} × {height}, quality {quality}, was not tried: {reason}
        </Notice>
      ))}
    </div>
  );
}

function standingText({ state, excerpts, secondsLeft }: TrialView): string {
  if (state === 'waiting') return 'waits for its turn';
  const doing = excerpts === null ? 'finding excerpts that stand for the whole' : 'trying';
  return secondsLeft === null ? doing : `${doing}, about ${formatWait(secondsLeft)} left`;
}
