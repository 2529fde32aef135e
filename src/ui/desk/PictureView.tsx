import { useRef, type PointerEvent } from 'react';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { FramePair } from './useFramePair.ts';

export const MODES = ['split', 'flip', 'side'] as const;
export type Mode = (typeof MODES)[number];
export const ZOOMS = ['fit', '1', '4'] as const;
export type Zoom = (typeof ZOOMS)[number];

interface Props {
  readonly pair: FramePair;
  readonly mode: Mode;
  readonly zoom: Zoom;
  /** Size in stored pixels, and how much wider they are shown. */
  readonly size: FrameSize;
  readonly pixelAspect: number;
  readonly isFlipped: boolean;
  readonly divider: number;
  readonly onDivider: (share: number) => void;
}

/** The pictures on neutral grey: enlarged without smoothing, dragged to look elsewhere. */
export function PictureView(props: Props) {
  const { pair, mode, zoom, size, pixelAspect } = props;
  const scroller = useRef<HTMLDivElement>(null);
  const shape = { width: size.width * pixelAspect, height: size.height };
  const scale = zoom === 'fit' ? null : Number(zoom);
  const frame =
    scale === null
      ? {
          aspectRatio: `${shape.width} / ${shape.height}`,
          width: `min(100%, calc((100vh - 14.6rem) * ${shape.width / shape.height}))`,
        }
      : { width: shape.width * scale, height: shape.height * scale };
  const pan = (event: PointerEvent<HTMLDivElement>) => {
    if (event.buttons !== 1 || scale === null || !scroller.current) return;
    scroller.current.scrollLeft -= event.movementX;
    scroller.current.scrollTop -= event.movementY;
  };
  return (
    <div
      ref={scroller}
      onPointerMove={pan}
      data-testid="pictures"
      tabIndex={scale === null ? -1 : 0}
      role="group"
      aria-label={`Frame ${pair.frame} of master and result`}
      className={`bg-desk h-[calc(100vh-13rem)] ${scale === null ? 'flex items-center justify-center overflow-hidden p-3' : 'cursor-grab overflow-auto'}`}
    >
      {mode === 'side' ? (
        <div className={scale === null ? 'grid w-full grid-cols-2 gap-2' : 'flex w-max gap-2'}>
          {(['master', 'result'] as const).map((which) => (
            <div key={which} className="relative" style={scale === null ? {} : frame}>
              <Picture address={pair[which]} which={which} isPixelated={scale !== null} />
              <Name text={which === 'master' ? 'Master' : 'Result'} side="left" />
            </div>
          ))}
        </div>
      ) : (
        <div className="relative shrink-0 select-none" style={frame}>
          <Overlaid {...props} />
        </div>
      )}
    </div>
  );
}

function Overlaid({ pair, mode, zoom, isFlipped, divider, onDivider }: Props) {
  const isPixelated = zoom !== 'fit';
  if (mode === 'flip') {
    // Both stay in place, so that nothing moves or flickers when they change.
    return (
      <>
        <Picture address={pair.master} which="master" isPixelated={isPixelated} />
        <div className="absolute inset-0" style={{ visibility: isFlipped ? 'visible' : 'hidden' }}>
          <Picture address={pair.result} which="result" isPixelated={isPixelated} />
        </div>
        <Name text={isFlipped ? 'Result' : 'Master'} side="left" />
      </>
    );
  }
  return (
    <>
      <Picture address={pair.result} which="result" isPixelated={isPixelated} />
      <div className="absolute inset-0" style={{ clipPath: `inset(0 ${100 - divider * 100}% 0 0)` }}>
        <Picture address={pair.master} which="master" isPixelated={isPixelated} />
      </div>
      <Name text="Master" side="left" />
      <Name text="Result" side="right" />
      <Divider share={divider} onChange={onDivider} />
    </>
  );
}

function Picture({
  address,
  which,
  isPixelated,
}: {
  readonly address: string;
  readonly which: string;
  readonly isPixelated: boolean;
}) {
  return (
    <img
      src={address}
      alt={`The ${which}`}
      draggable={false}
      data-which={which}
      className="block size-full"
      style={{ imageRendering: isPixelated ? 'pixelated' : 'auto' }}
    />
  );
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
      onPointerDown={(event) => event.currentTarget.setPointerCapture(event.pointerId)}
      onPointerMove={drag}
      onKeyDown={(event) => {
        const step = { ArrowUp: 0.02, ArrowDown: -0.02 }[event.key];
        if (step === undefined) return;
        event.preventDefault();
        onChange(Math.min(1, Math.max(0, share + step)));
      }}
      className="absolute inset-y-0 flex w-5 -translate-x-1/2 cursor-ew-resize touch-none justify-center"
      style={{ left: `${share * 100}%` }}
    >
      <span aria-hidden="true" className="h-full w-px bg-white shadow-[0_0_0_1px_rgb(0_0_0/0.6)]" />
      <span
        aria-hidden="true"
        className="absolute top-1/2 h-8 w-2.5 -translate-y-1/2 rounded-full border border-black bg-white"
      />
    </div>
  );
}
