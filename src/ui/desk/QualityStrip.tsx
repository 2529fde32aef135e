import { useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import { useTheme } from 'next-themes';
import { CEILING_DB } from '../../core/quality/frameQuality.ts';
import { sayDecibels } from '../../core/quality/sayQuality.ts';
import { lowestPerPart } from './qualityRows.ts';

interface Props {
  /** SSIM of each frame. */
  readonly decibels: readonly number[];
  readonly frame: number;
  readonly worstFrame: number;
  readonly onFrame: (frame: number) => void;
}

const HEIGHT = 56;

/** The quality of each moment along the length; pressed or dragged to go there. */
export function QualityStrip({ decibels, frame, worstFrame, onFrame }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const [width, setWidth] = useState(0);
  const { resolvedTheme } = useTheme();
  useEffect(() => {
    const element = canvas.current;
    if (!element) return undefined;
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => observer.disconnect();
  }, []);
  const range = useMemo(() => stripRange(decibels), [decibels]);
  useEffect(() => {
    const element = canvas.current;
    if (element && width > 0) draw(element, decibels, width, range);
  }, [decibels, width, range, resolvedTheme]);
  const share = (index: number) => `${((index + 0.5) / Math.max(1, decibels.length)) * 100}%`;
  const go = (event: PointerEvent<HTMLDivElement>) => {
    if (event.buttons !== 1) return;
    const box = event.currentTarget.getBoundingClientRect();
    const position = (event.clientX - box.left) / box.width;
    onFrame(Math.min(decibels.length - 1, Math.max(0, Math.floor(position * decibels.length))));
  };
  return (
    <div
      className="relative"
      data-testid="quality-strip"
      onPointerDown={go}
      onPointerMove={go}
      style={{ height: HEIGHT }}
    >
      <canvas
        ref={canvas}
        className="bg-sunk size-full rounded-sm"
        aria-label={`SSIM of each frame, lowest ${sayDecibels(decibels[worstFrame] ?? 0)} at frame ${worstFrame}`}
        role="img"
      />
      <span className="figure bg-paper/85 text-quiet pointer-events-none absolute top-0 left-1 px-0.5 text-xs">
        {range[1]} dB
      </span>
      <span className="figure bg-paper/85 text-quiet pointer-events-none absolute bottom-0 left-1 px-0.5 text-xs">
        {range[0]}
      </span>
      <span
        aria-hidden="true"
        className="text-wrong pointer-events-none absolute -top-1 -translate-x-1/2 text-xs"
        style={{ left: share(worstFrame) }}
      >
        ▼
      </span>
      <span
        aria-hidden="true"
        className="bg-ember pointer-events-none absolute inset-y-0 w-0.5 -translate-x-1/2"
        style={{ left: share(frame) }}
      />
    </div>
  );
}

/** From a round value below the worst frame to one above most, so that differences are seen; what is identical goes beyond. */
function stripRange(decibels: readonly number[]): readonly [from: number, to: number] {
  const sorted = decibels.filter((value) => value < CEILING_DB).toSorted((a, b) => a - b);
  const from = Math.max(0, Math.floor(((sorted[0] ?? 10) - 0.5) / 2) * 2);
  return [from, Math.max(from + 4, Math.ceil((sorted.at(-1) ?? 20) / 2) * 2)];
}

function draw(
  canvas: HTMLCanvasElement,
  decibels: readonly number[],
  width: number,
  [from, to]: readonly [from: number, to: number],
): void {
  const context = canvas.getContext('2d');
  if (!context) return;
  const density = window.devicePixelRatio;
  canvas.width = width * density;
  canvas.height = HEIGHT * density;
  context.fillStyle = getComputedStyle(canvas).getPropertyValue('--measured');
  lowestPerPart(decibels, canvas.width).forEach((value, column) => {
    const height = Math.min(1, Math.max(0, (value - from) / (to - from))) * canvas.height;
    context.fillRect(column, canvas.height - height, 1, height);
  });
}
