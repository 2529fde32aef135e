import clsx from 'clsx';
import { useState } from 'react';
import type { Timeline } from './timeline.ts';

interface Props {
  readonly label: string;
  readonly value: string;
  readonly timeline: Timeline;
  readonly onFrame: (frame: number) => void;
  readonly className?: string;
}

/** A position that can be typed: a frame number, seconds with an s, timecode, or time where the rate varies. */
export function PositionField({ label, value, timeline, onFrame, className }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const frame = typed === null ? null : timeline.read(typed);
  const isWrong = typed !== null && typed !== value && (frame === null || frame < 0 || frame >= timeline.frames);
  const settle = () => {
    if (frame !== null && !isWrong && typed !== value) onFrame(frame);
    setTyped(null);
  };
  return (
    <input
      aria-label={label}
      aria-invalid={isWrong}
      title={
        isWrong
          ? `From ${timeline.name(0)} to ${timeline.name(timeline.frames - 1)}: a frame number, seconds like 12.5s, or written like these`
          : `${label}: type a frame number, seconds like 12.5s, or something like ${value}`
      }
      value={typed ?? value}
      onFocus={(event) => {
        setTyped(value);
        event.target.select();
      }}
      onChange={(event) => setTyped(event.target.value)}
      onBlur={settle}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
        if (event.key === 'Escape') {
          setTyped(value);
          requestAnimationFrame(() => (event.target as HTMLInputElement).blur());
        }
      }}
      className={clsx(
        'figure bg-paper rounded border px-1.5 py-0.5',
        isWrong ? 'border-wrong text-wrong' : 'border-rule',
        className,
      )}
    />
  );
}
