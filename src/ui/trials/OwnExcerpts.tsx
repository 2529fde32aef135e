import { X } from 'lucide-react';
import type { Portion } from '../../core/programme/facts.ts';
import type { Timeline } from '../player/timeline.ts';
import { Button } from '../kit/Button.tsx';

interface Props {
  readonly timeline: Timeline;
  /** Where the playhead is. */
  readonly frame: number;
  readonly pinned: readonly Portion[];
  readonly onPin: (pinned: readonly Portion[]) => void;
}

/** Moments that are tried whatever is chosen besides. */
export function OwnExcerpts({ timeline, frame, pinned, onPin }: Props) {
  const isThere = pinned.some(({ inFrame, outFrame }) => inFrame <= frame && frame <= outFrame);
  return (
    <p className="mt-2 flex flex-wrap items-center gap-x-3 gap-y-1 text-sm" data-testid="own-excerpts">
      <Button
        look="quiet"
        disabled={isThere}
        onClick={() =>
          onPin([...pinned, { inFrame: frame, outFrame: frame }].toSorted((a, b) => a.inFrame - b.inFrame))
        }
      >
        Try the moment at the playhead too
      </Button>
      {pinned.map((one) => (
        <span key={one.inFrame} className="inline-flex items-center gap-1">
          <span className="figure">{timeline.name(one.inFrame)}</span>
          <button
            type="button"
            aria-label={`Do not try ${timeline.name(one.inFrame)} for itself`}
            className="text-quiet hover:bg-sunk rounded p-1"
            onClick={() => onPin(pinned.filter(({ inFrame }) => inFrame !== one.inFrame))}
          >
            <X size={14} />
          </button>
        </span>
      ))}
    </p>
  );
}
