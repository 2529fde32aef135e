import { useState, type KeyboardEvent, type PointerEvent } from 'react';
import { useGesture } from './gesture.ts';

interface Handle {
  /** While it is held and moved. */
  readonly onDrag: (event: PointerEvent<Element>) => void;
  /** By key: 1 or −1 for a step, 10 or −10 for a wide one. */
  readonly onStep: (steps: number) => void;
  readonly onHold?: (isHeld: boolean) => void;
}

const STEPS: Readonly<Record<string, number>> = {
  ArrowLeft: -1,
  ArrowDown: -1,
  ArrowRight: 1,
  ArrowUp: 1,
  PageDown: -10,
  PageUp: 10,
};

/** What a slider is given so that it is dragged, or moved by keys; one drag is one change. */
export function useHeldHandle({ onDrag, onStep, onHold }: Handle) {
  const [isHeld, setHeld] = useState(false);
  const gesture = useGesture();
  const hold = (held: boolean) => {
    setHeld(held);
    onHold?.(held);
    if (held) gesture.begin();
    else gesture.end();
  };
  return {
    onPointerDown: (event: PointerEvent<Element>) => {
      event.currentTarget.setPointerCapture(event.pointerId);
      hold(true);
    },
    onPointerMove: (event: PointerEvent<Element>) => isHeld && onDrag(event),
    onPointerUp: () => hold(false),
    onPointerCancel: () => hold(false),
    onKeyDown: (event: KeyboardEvent) => {
      const steps = STEPS[event.key];
      if (steps === undefined) return;
      event.preventDefault();
      onStep(steps);
    },
  };
}
