import { useRef, type PointerEvent, type ReactNode } from 'react';
import { useHeldHandle } from '../hooks/useHeldHandle.ts';

interface Props {
  readonly label: string;
  readonly value: number;
  readonly range: readonly [least: number, most: number];
  readonly valueText: string;
  /** Where it stands, from 0 to 1 along the bar. */
  readonly at: number;
  readonly className: string;
  /** Dragged to so much of the bar. */
  readonly onDrag: (share: number) => void;
  /** By key: 1 or −1 for a step, 10 or −10 for a wide one. */
  readonly onStep: (steps: number) => void;
  readonly onHold: (isHeld: boolean) => void;
  readonly children: ReactNode;
}

/** Something on the bar that is dragged along it, or moved by keys. */
export function BarHandle({ label, value, range, valueText, at, className, onDrag, onStep, onHold, children }: Props) {
  const handle = useRef<HTMLDivElement>(null);
  const drag = (event: PointerEvent<Element>) => {
    const bar = handle.current?.parentElement?.getBoundingClientRect();
    if (bar) onDrag((event.clientX - bar.left) / bar.width);
  };
  const held = useHeldHandle({ onDrag: drag, onStep, onHold });
  return (
    <div
      ref={handle}
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuemin={range[0]}
      aria-valuemax={range[1]}
      aria-valuenow={value}
      aria-valuetext={valueText}
      title={`${label}: ${valueText}`}
      {...held}
      className={`absolute flex -translate-x-1/2 cursor-ew-resize touch-none justify-center ${className}`}
      style={{ left: `${100 * Math.min(1, at)}%` }}
    >
      {children}
    </div>
  );
}
