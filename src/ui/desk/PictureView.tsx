import { useEffect, useRef, useState, type PointerEvent, type RefObject } from 'react';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { FramePair } from './useFramePair.ts';
import { layPicture, panBy, stepZoom, zoomAt, type Place, type Zoom } from './viewport.ts';

export const MODES = ['split', 'flip', 'side'] as const;
export type Mode = (typeof MODES)[number];

interface Props {
  readonly pair: FramePair;
  readonly mode: Mode;
  readonly zoom: Zoom;
  /** What lies in the middle of every view. */
  readonly centre: Place;
  /** The master's size in square pixels. */
  readonly shape: FrameSize;
  readonly isFlipped: boolean;
  /** Of the view, from its left edge. */
  readonly divider: number;
  readonly onDivider: (share: number) => void;
  readonly onLook: (zoom: Zoom, centre: Place) => void;
}

/**
 * The pictures on neutral grey, enlarged without smoothing. Every view shows the same place at the same size: dragged to
 * look elsewhere, turned by the wheel to look closer.
 */
export function PictureView(props: Props) {
  const { pair, mode } = props;
  return (
    <div
      data-testid="pictures"
      role="group"
      aria-label={`Frame ${pair.frame} of master and result`}
      className="bg-desk flex min-h-0 grow gap-1 overflow-hidden"
    >
      {mode === 'side' ? (
        (['master', 'result'] as const).map((which) => (
          <View key={which} {...props} shows={[which]}>
            <Name text={which === 'master' ? 'Master' : 'Result'} side="left" />
          </View>
        ))
      ) : mode === 'flip' ? (
        <View {...props} shows={['master', 'result']} hidden={props.isFlipped ? null : 'result'}>
          <Name text={props.isFlipped ? 'Result' : 'Master'} side="left" />
        </View>
      ) : (
        <View {...props} shows={['result', 'master']} isSplit>
          <Name text="Master" side="left" />
          <Name text="Result" side="right" />
          <Divider share={props.divider} onChange={props.onDivider} />
        </View>
      )}
    </div>
  );
}

type Which = 'master' | 'result';

interface ViewProps extends Props {
  /** What lies in it, the uppermost last; both stay in place, so that nothing moves or flickers when they change. */
  readonly shows: readonly Which[];
  /** The uppermost ends at the divider. */
  readonly isSplit?: boolean;
  readonly hidden?: Which | null;
  readonly children: React.ReactNode;
}

function View({
  pair,
  zoom,
  centre,
  shape,
  divider,
  shows,
  isSplit = false,
  hidden = null,
  onLook,
  children,
}: ViewProps) {
  const element = useRef<HTMLDivElement>(null);
  const size = useSize(element);
  const laid = size && layPicture(size, shape, zoom, centre);
  const pan = (event: PointerEvent<HTMLDivElement>) => {
    if (event.buttons !== 1 || !size || zoom === 'fit') return;
    onLook(zoom, panBy(size, shape, zoom, centre, event.movementX, event.movementY));
  };
  useWheel(element, (step, at) => {
    const next = stepZoom(zoom, step);
    if (size && next !== zoom) onLook(next, zoomAt(size, shape, zoom, next, centre, at));
  });
  return (
    <div
      ref={element}
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={pan}
      className={`relative min-w-0 grow basis-0 touch-none overflow-hidden select-none ${zoom === 'fit' ? '' : 'cursor-grab active:cursor-grabbing'}`}
      data-testid={`view-${shows.at(-1)}`}
    >
      {laid &&
        shows.map((which, index) => (
          <div
            key={which}
            className="absolute inset-0"
            style={{
              ...(isSplit && index === shows.length - 1 ? { clipPath: `inset(0 ${100 - divider * 100}% 0 0)` } : {}),
              ...(which === hidden ? { visibility: 'hidden' } : {}),
            }}
          >
            <img
              src={pair[which]}
              alt={`The ${which}`}
              draggable={false}
              data-which={which}
              className="absolute max-w-none"
              style={{ ...laid, imageRendering: zoom === 'fit' ? 'auto' : 'pixelated' }}
            />
          </div>
        ))}
      {children}
    </div>
  );
}

function useSize(element: RefObject<HTMLElement | null>): FrameSize | null {
  const [size, setSize] = useState<FrameSize | null>(null);
  useEffect(() => {
    const watched = element.current;
    if (!watched) return undefined;
    const observer = new ResizeObserver(() => setSize({ width: watched.clientWidth, height: watched.clientHeight }));
    observer.observe(watched);
    return () => observer.disconnect();
  }, [element]);
  return size;
}

/** The page must not scroll under the wheel, which a listener of React's cannot prevent. */
function useWheel(
  element: RefObject<HTMLElement | null>,
  onTurn: (step: 1 | -1, at: { x: number; y: number }) => void,
): void {
  const latest = useRef(onTurn);
  useEffect(() => {
    latest.current = onTurn;
  });
  useEffect(() => {
    const watched = element.current;
    const turn = (event: WheelEvent) => {
      event.preventDefault();
      const box = watched?.getBoundingClientRect();
      if (box && event.deltaY !== 0) {
        latest.current(event.deltaY < 0 ? 1 : -1, { x: event.clientX - box.left, y: event.clientY - box.top });
      }
    };
    watched?.addEventListener('wheel', turn, { passive: false });
    return () => watched?.removeEventListener('wheel', turn);
  }, [element]);
}

function Name({ text, side }: { readonly text: string; readonly side: 'left' | 'right' }) {
  return (
    <span
      className={`pointer-events-none absolute top-2 rounded bg-black/75 px-1.5 text-sm text-white ${side === 'left' ? 'left-2' : 'right-2'}`}
    >
      {text}
    </span>
  );
}

function Divider({ share, onChange }: { readonly share: number; readonly onChange: (share: number) => void }) {
  const line = useRef<HTMLDivElement>(null);
  const drag = (event: PointerEvent<HTMLDivElement>) => {
    event.stopPropagation();
    const box = line.current?.parentElement?.getBoundingClientRect();
    if (event.buttons === 1 && box) onChange(Math.min(1, Math.max(0, (event.clientX - box.left) / box.width)));
  };
  return (
    <div
      ref={line}
      role="slider"
      tabIndex={0}
      aria-label="Divider between master and result"
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={Math.round(share * 100)}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
      }}
      onPointerMove={drag}
      onKeyDown={(event) => {
        const step = { ArrowUp: 0.02, ArrowDown: -0.02 }[event.key];
        if (step === undefined) return;
        event.preventDefault();
        onChange(Math.min(1, Math.max(0, share + step)));
      }}
      className="absolute inset-y-0 flex w-5 -translate-x-1/2 cursor-ew-resize touch-none justify-center"
      style={{ left: `clamp(0.4rem, ${share * 100}%, 100% - 0.4rem)` }}
    >
      <span aria-hidden="true" className="h-full w-px bg-white shadow-[0_0_0_1px_rgb(0_0_0/0.6)]" />
      <span
        aria-hidden="true"
        className="absolute top-1/2 h-8 w-2.5 -translate-y-1/2 rounded-full border border-black bg-white"
      />
    </div>
  );
}
