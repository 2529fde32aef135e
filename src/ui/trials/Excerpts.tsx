import clsx from 'clsx';
import { Pin, PinOff, X } from 'lucide-react';
import type { ReactNode } from 'react';
import type { ExcerptView } from '../../contract/trial.ts';
import type { Portion } from '../../core/programme/facts.ts';
import type { Timeline } from '../player/timeline.ts';
import { Disclosure } from '../kit/Disclosure.tsx';
import { Hint } from '../kit/Hint.tsx';

interface Props {
  readonly timeline: Timeline;
  readonly excerpts: readonly ExcerptView[];
  readonly pinned: readonly Portion[];
  readonly dropped: readonly Portion[];
  readonly onPin: (pinned: readonly Portion[]) => void;
  readonly onDrop: (dropped: readonly Portion[]) => void;
  readonly onPlace: (frame: number) => void;
}

const REASONS: Readonly<Record<ExcerptView['reason'], string>> = {
  hardest: 'the hardest',
  pinned: 'pinned',
  typical: 'typical',
};

/** Where the excerpts lie, how much each stands for, and keys that pin or drop them for the next trial. */
export function Excerpts({ timeline, excerpts, pinned, dropped, onPin, onDrop, onPlace }: Props) {
  const length = timeline.frames;
  const holds = (list: readonly Portion[], one: Portion) => list.some(({ inFrame }) => inFrame === one.inFrame);
  const toggle = (list: readonly Portion[], { inFrame, outFrame }: Portion) =>
    holds(list, { inFrame, outFrame })
      ? list.filter((one) => one.inFrame !== inFrame)
      : [...list, { inFrame, outFrame }];
  return (
    <div className="mt-3 max-w-[60rem]" data-testid="excerpts">
      <div className="bg-sunk relative mb-1 h-3 rounded" aria-hidden>
        {excerpts.map(({ inFrame, outFrame, reason }) => (
          <span
            key={inFrame}
            className={clsx('absolute inset-y-0 rounded-sm', reason === 'hardest' ? 'bg-ember' : 'bg-measured')}
            style={{
              left: `${(100 * inFrame) / length}%`,
              width: `${Math.max(0.4, (100 * (outFrame - inFrame + 1)) / length)}%`,
            }}
          />
        ))}
      </div>
      <Disclosure
        name={`${excerpts.length === 1 ? 'One excerpt stands' : `${excerpts.length} excerpts stand`} for the whole`}
      >
        <ul className="mt-2 grid gap-x-6 sm:grid-cols-2">
          {excerpts
            .toSorted((a, b) => a.inFrame - b.inFrame)
            .map((excerpt) => (
              <li key={excerpt.inFrame} className="flex items-center gap-2 text-sm">
                <button type="button" className="figure underline" onClick={() => onPlace(excerpt.inFrame)}>
                  {timeline.name(excerpt.inFrame)}
                </button>
                <span>
                  {REASONS[excerpt.reason]}, stands for{' '}
                  <span className="figure">{(excerpt.weight * 100).toFixed(0)}</span> %
                </span>
                <Toggle
                  label={holds(pinned, excerpt) ? 'No longer pinned' : 'Pin it for the next trial'}
                  isOn={holds(pinned, excerpt)}
                  onClick={() => onPin(toggle(pinned, excerpt))}
                >
                  {holds(pinned, excerpt) ? <PinOff size={14} /> : <Pin size={14} />}
                </Toggle>
                <Toggle
                  label={holds(dropped, excerpt) ? 'Take it again' : 'Leave it out of the next trial'}
                  isOn={holds(dropped, excerpt)}
                  onClick={() => onDrop(toggle(dropped, excerpt))}
                >
                  <X size={14} />
                </Toggle>
              </li>
            ))}
        </ul>
      </Disclosure>
    </div>
  );
}

interface ToggleProps {
  readonly label: string;
  readonly isOn: boolean;
  readonly onClick: () => void;
  readonly children: ReactNode;
}

function Toggle({ label, isOn, onClick, children }: ToggleProps) {
  return (
    <Hint text={label}>
      <button
        type="button"
        aria-label={label}
        aria-pressed={isOn}
        onClick={onClick}
        className={clsx('hover:bg-sunk rounded p-1', isOn ? 'text-ember' : 'text-quiet')}
      >
        {children}
      </button>
    </Hint>
  );
}
