import { useEffect, useRef, useState, type PointerEvent } from 'react';
import { useTheme } from 'next-themes';
import { lowestPerPart } from './qualityRows.ts';

interface Props {
  readonly ssim: readonly number[];
  readonly frame: number;
  readonly worstFrame: number;
  readonly onFrame: (frame: number) => void;
}

const HEIGHT = 56;

/** The quality of each moment along the length; pressed or dragged to go there. */
export function QualityStrip({ ssim, frame, worstFrame, onFrame }: Props) {
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
  const floor = stripFloor(ssim[worstFrame] ?? 0.9);
  useEffect(() => {
    const element = canvas.current;
    if (element && width > 0) draw(element, ssim, width, floor);
  }, [ssim, width, floor, resolvedTheme]);
  const share = (index: number) => `${((index + 0.5) / Math.max(1, ssim.length)) * 100}%`;
  const go = (event: PointerEvent<HTMLDivElement>) => {
    if (event.buttons !== 1) return;
    const box = event.currentTarget.getBoundingClientRect();
    const position = (event.clientX - box.left) / box.width;
    onFrame(Math.min(ssim.length - 1, Math.max(0, Math.floor(position * ssim.length))));
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
        aria-label={`SSIM of each frame, lowest ${(ssim[worstFrame] ?? 0).toFixed(4)} at frame ${worstFrame}`}
        role="img"
      />
      <span className="figure bg-paper/85 text-quiet pointer-events-none absolute top-0 left-1 px-0.5 text-xs">
        1.00
      </span>
      <span className="figure bg-paper/85 text-quiet pointer-events-none absolute bottom-0 left-1 px-0.5 text-xs">
        {floor}
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

/** A round value somewhat below the worst frame, so that differences near 1 can be seen. */
function stripFloor(worst: number): number {
  return [0.99, 0.98, 0.95, 0.9, 0.8, 0.6, 0.4].find((value) => value < 1 - (1 - worst) * 1.1) ?? 0;
}

function draw(canvas: HTMLCanvasElement, ssim: readonly number[], width: number, floor: number): void {
  const context = canvas.getContext('2d');
  if (!context) return;
  const density = window.devicePixelRatio;
  canvas.width = width * density;
  canvas.height = HEIGHT * density;
  context.fillStyle = getComputedStyle(canvas).getPropertyValue('--measured');
  lowestPerPart(ssim, canvas.width).forEach((value, column) => {
    const height = Math.max(0, (value - floor) / (1 - floor)) * canvas.height;
    context.fillRect(column, canvas.height - height, 1, height);
  });
}
