import { useRef, useState, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { useGesture } from '../hooks/gesture.ts';

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

const STEPS: Readonly<Record<string, number>> = {
  ArrowLeft: -1,
  ArrowDown: -1,
  ArrowRight: 1,
  ArrowUp: 1,
  PageDown: -10,
  PageUp: 10,
};

/** Something on the bar that is dragged along it, or moved by keys. */
export function BarHandle({ label, value, range, valueText, at, className, onDrag, onStep, onHold, children }: Props) {
  const handle = useRef<HTMLDivElement>(null);
  const [isDragged, setDragged] = useState(false);
  const drag = (event: PointerEvent<HTMLDivElement>) => {
    const bar = handle.current?.parentElement?.getBoundingClientRect();
    if (isDragged && bar) onDrag((event.clientX - bar.left) / bar.width);
  };
  const gesture = useGesture();
  const hold = (isHeld: boolean) => {
    setDragged(isHeld);
    onHold(isHeld);
    if (isHeld) gesture.begin();
    else gesture.end();
  };
  const press = (event: KeyboardEvent<HTMLDivElement>) => {
    const steps = STEPS[event.key];
    if (steps === undefined) return;
    event.preventDefault();
    onStep(steps);
  };
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
      onPointerDown={(event) => {
        event.currentTarget.setPointerCapture(event.pointerId);
        hold(true);
      }}
      onPointerMove={drag}
      onPointerUp={() => hold(false)}
      onPointerCancel={() => hold(false)}
      onKeyDown={press}
      className={`absolute flex -translate-x-1/2 cursor-ew-resize touch-none justify-center ${className}`}
      style={{ left: `${100 * Math.min(1, at)}%` }}
    >
      {children}
    </div>
  );
}
