import type { RenditionSummary } from '../../contract/views.ts';
import { useIsQueueOpen, useStop } from '../hooks/queries.ts';
import { Button } from '../kit/Button.tsx';
import { formatWait } from '../kit/format.ts';
import { ProgressBar } from '../kit/ProgressBar.tsx';

const STAGES = {
  sound: 'Encoding the sound',
  analysis: 'First pass, looking ahead',
  encode: 'Encoding the picture',
  correction: 'Second pass again, corrected',
  retouch: 'A few seconds again, to fill the rest',
  copy: 'Copying the streams',
  checking: 'Comparing with the master',
} as const;

function standing({ state, stage, paused }: RenditionSummary, isStill: boolean): string {
  if (state === 'queued') return paused ? 'Waits until it may go on' : 'Waiting for its turn';
  if (isStill) return 'Stands still where it is';
  return stage ? STAGES[stage] : 'Starting';
}

interface Props {
  readonly rendition: RenditionSummary;
  /** Among those that wait, from 0; what is taken out of the queue goes back there. */
  readonly place?: number | null;
}

/** Where a rendition is on its way, and the button that stops it. */
export function RenditionProgress({ rendition, place = null }: Props) {
  const stop = useStop();
  const isOpen = useIsQueueOpen();
  const { state, paused, stage, fraction, pass, passes, framesPerSecond, secondsLeft } = rendition;
  const isWaiting = state === 'queued';
  const isStill = paused || !isOpen;
  return (
    <div className="flex items-center gap-4">
      <div className="min-w-0 grow">
        <div className="flex gap-4 text-sm">
          <span>{standing(rendition, isStill)}</span>
          {pass !== null && stage !== 'checking' && (
            <span className="text-quiet">
              step {pass} of {passes}
            </span>
          )}
          {framesPerSecond !== null && !isStill && (
            <span className="figure text-quiet">{framesPerSecond.toFixed(0)} fps</span>
          )}
          {!isWaiting && <span className="figure ml-auto">{Math.round(fraction * 100)} %</span>}
          {secondsLeft !== null && <span className="text-quiet">{formatWait(secondsLeft)} left</span>}
        </div>
        <ProgressBar fraction={fraction} label={`Progress of ${rendition.name}`} className="mt-1 h-1.5" />
      </div>
      <Button
        onClick={() => stop.mutate({ rendition, place })}
        disabled={stop.isPending}
        aria-label={`Stop ${rendition.name}`}
      >
        Stop
      </Button>
    </div>
  );
}
