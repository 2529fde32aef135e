import { useRef, type PointerEvent } from 'react';
import { usePlotArea, useXAxisInverseScale, useXAxisScale, ZIndexLayer } from 'recharts';
import { useHeldHandle } from '../hooks/useHeldHandle.ts';
import { formatBytes, roundToRead } from '../kit/format.ts';

interface Props {
  readonly cap: number;
  readonly onCap: (bytes: number) => void;
}

/** Wide enough to be taken hold of, in pixels. */
const GRIP = 18;

/** Marks and lines lie at 1,000 at most. */
const ABOVE_MARKS = 2000;

/** A key moves the cap by this share of it. */
const STEP = 0.02;

/** The cap's line in the chart: dragged along the sizes, or moved by keys. One drag is one change. */
export function CapHandle({ cap, onCap }: Props) {
  const grip = useRef<SVGRectElement>(null);
  const plot = usePlotArea();
  const [toPixels, toBytes] = [useXAxisScale(), useXAxisInverseScale()];
  const drag = (event: PointerEvent<Element>) => {
    const box = grip.current?.ownerSVGElement?.getBoundingClientRect();
    if (!plot || !box) return;
    const x = Math.min(plot.x + plot.width, Math.max(plot.x + 1, event.clientX - box.left));
    const bytes = Number(toBytes?.(x));
    if (bytes > 0) onCap(roundToRead(bytes));
  };
  const held = useHeldHandle({ onDrag: drag, onStep: (steps) => onCap(roundToRead(cap * (1 + STEP * steps))) });
  const at = toPixels?.(cap);
  if (!plot || at === undefined) return null;
  return (
    <ZIndexLayer zIndex={ABOVE_MARKS}>
      <rect
        ref={grip}
        x={at - GRIP / 2}
        y={plot.y}
        width={GRIP}
        height={plot.height}
        fill="transparent"
        role="slider"
        tabIndex={0}
        aria-label="Cap in the chart"
        aria-valuenow={cap}
        aria-valuetext={formatBytes(cap)}
        className="cursor-ew-resize touch-none"
        {...held}
      />
    </ZIndexLayer>
  );
}
