import clsx from 'clsx';
import { useId, useState } from 'react';
import { toast } from 'sonner';
import type { Timeline } from './timeline.ts';

interface Props {
  readonly label: string;
  readonly value: string;
  /** The frame it names now. */
  readonly frame: number;
  /** What bare digits are. */
  readonly digits?: 'frame' | 'timecode';
  readonly timeline: Timeline;
  readonly onFrame: (frame: number) => void;
  readonly className?: string;
}

/**
 * A position that can be typed: timecode, also the short way (`1210`, `+50`), seconds with an s, or a frame's number.
 * Enter takes it, Escape leaves it; what is refused is said.
 */
export function PositionField({ label, value, frame: now, digits = 'timecode', timeline, onFrame, className }: Props) {
  const [typed, setTyped] = useState<string | null>(null);
  const frame = typed === null ? null : timeline.read(typed, now, digits);
  const isWrong = typed !== null && typed !== value && (frame === null || frame < 0 || frame >= timeline.frames);
  const said = isWrong ? explain(frame, timeline) : null;
  const id = useId();
  const settle = () => {
    if (frame !== null && !isWrong && typed !== value) onFrame(frame);
    else if (said) toast.error(`${label}: ${said}`);
    setTyped(null);
  };
  return (
    <span className="relative inline-flex">
      <input
        aria-label={label}
        aria-invalid={isWrong}
        aria-describedby={said ? id : undefined}
        title={`${label}: ${value}, typed like this, as 1210 for 12 seconds and 10 frames, as 12.5s, or as +50 for 50 frames on`}
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
      {said && (
        <span
          id={id}
          role="status"
          className="border-wrong bg-sheet text-wrong absolute top-full left-0 z-20 mt-0.5 w-64 rounded border px-2 py-1 text-sm"
        >
          {said}
        </span>
      )}
    </span>
  );
}

function explain(frame: number | null, { name, frames }: Timeline): string {
  const range = `${name(0)} to ${name(frames - 1)}`;
  return frame === null
    ? `That is no position here; type one from ${range}, such as 1210, 12.5s or +50.`
    : `That lies outside; positions run from ${range}.`;
}
