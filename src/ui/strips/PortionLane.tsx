import { useState, type DOMAttributes, type KeyboardEvent, type PointerEvent } from 'react';
import type { PortionView } from '../../contract/views.ts';
import type { Portion } from '../../core/programme/facts.ts';
import type { Timeline } from '../player/timeline.ts';
import type { View } from './view.ts';

interface Props {
  readonly view: View;
  readonly timeline: Timeline;
  readonly portions: readonly PortionView[];
  readonly selected: string | null;
  readonly frameAt: (clientX: number) => number;
  readonly onSelect: (id: string) => void;
  readonly onPortion: (portion: Portion, id: string | null) => void;
}

/** Less is a press, and moves nothing. */
const DRAGGED_PIXELS = 3;

interface Drag {
  /** null draws a new portion. */
  readonly id: string | null;
  /** The frame at the other end. */
  readonly fixed: number;
  /** null until it is really dragged. */
  readonly moving: number | null;
  readonly fromX: number;
}

/** Portions above the strips: dragging on the empty lane marks one, dragging an edge moves it. */
export function PortionLane({ view, timeline, portions, selected, frameAt, onSelect, onPortion }: Props) {
  /** What is being dragged, and from which frame; nothing is changed before it is let go. */
  const [drag, setDrag] = useState<Drag | null>(null);
  const share = (frame: number) => (100 * (timeline.clock.secondsOf(frame) - view.from)) / (view.to - view.from);
  const dragged = drag && drag.moving !== null ? spanOf(drag.fixed, drag.moving) : null;
  const begin = (event: PointerEvent<HTMLElement>, id: string | null, fixed: number) => {
    if (event.button !== 0) return;
    event.stopPropagation();
    event.currentTarget.setPointerCapture(event.pointerId);
    setDrag({ id, fixed, moving: null, fromX: event.clientX });
  };
  const handlers = {
    onPointerMove: (event: PointerEvent) =>
      setDrag((now) => {
        if (!now || (now.moving === null && Math.abs(event.clientX - now.fromX) < DRAGGED_PIXELS)) return now;
        return { ...now, moving: frameAt(event.clientX) };
      }),
    onPointerUp: (event: PointerEvent) => {
      // The lane under an edge would take it for its own, and the change would be made twice.
      event.stopPropagation();
      if (drag && drag.moving !== null) onPortion(spanOf(drag.fixed, drag.moving), drag.id);
      setDrag(null);
    },
    onPointerCancel: () => setDrag(null),
  };
  return (
    <div
      className="bg-sunk relative mb-1 h-5 cursor-cell touch-none overflow-hidden rounded-sm"
      onPointerDown={(event) => begin(event, null, frameAt(event.clientX))}
      {...handlers}
      data-testid="portion-lane"
    >
      {portions.length === 0 && !drag && (
        <span className="text-quiet pointer-events-none absolute inset-0 px-1.5 text-xs leading-5">
          The whole programme. Drag here to mark a portion, or set in and out with I and O.
        </span>
      )}
      {portions.map((portion) => (
        <PortionBar
          key={portion.id}
          portion={portion}
          span={drag?.id === portion.id && dragged ? dragged : portion}
          isSelected={portion.id === selected}
          timeline={timeline}
          share={share}
          handlers={handlers}
          onSelect={() => onSelect(portion.id)}
          onHold={(event, fixed) => begin(event, portion.id, fixed)}
          onMove={(moved) => onPortion(moved, portion.id)}
        />
      ))}
      {drag?.id === null && dragged && (
        <div
          className="bg-ember-soft border-ember pointer-events-none absolute inset-y-0 border"
          style={{
            left: `${share(dragged.inFrame)}%`,
            width: `${share(dragged.outFrame + 1) - share(dragged.inFrame)}%`,
          }}
        />
      )}
    </div>
  );
}

interface BarProps {
  readonly portion: PortionView;
  /** As it is being dragged. */
  readonly span: Portion;
  readonly isSelected: boolean;
  readonly timeline: Timeline;
  readonly share: (frame: number) => number;
  readonly handlers: Pick<DOMAttributes<HTMLElement>, 'onPointerMove' | 'onPointerUp' | 'onPointerCancel'>;
  readonly onSelect: () => void;
  /** An edge is taken hold of; the frame of the other one stays. */
  readonly onHold: (event: PointerEvent<HTMLElement>, fixed: number) => void;
  readonly onMove: (span: Portion) => void;
}

/** One portion, with an edge at each end that moves by pointer or by the arrow keys. */
function PortionBar({ portion, span, isSelected, timeline, share, handlers, onSelect, onHold, onMove }: BarProps) {
  const nudge = (event: KeyboardEvent, edge: 'inFrame' | 'outFrame') => {
    const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const { inFrame, outFrame } = portion;
    const moved = { inFrame, outFrame, [edge]: portion[edge] + step * (event.shiftKey ? 10 : 1) };
    if (moved.inFrame >= 0 && moved.outFrame < timeline.frames && moved.inFrame <= moved.outFrame) onMove(moved);
  };
  const left = share(span.inFrame);
  return (
    <div
      className={`absolute inset-y-0 border-y ${isSelected ? 'bg-ember-soft border-ember' : 'bg-measured-soft border-measured'}`}
      style={{ left: `${left}%`, width: `${share(span.outFrame + 1) - left}%` }}
      onPointerDown={(event) => {
        event.stopPropagation();
        onSelect();
      }}
    >
      <span className="pointer-events-none block truncate px-2.5 text-xs leading-[18px]">{portion.name}</span>
      {(['inFrame', 'outFrame'] as const).map((edge) => (
        <span
          key={edge}
          role="slider"
          tabIndex={0}
          aria-label={`${portion.name}, ${edge === 'inFrame' ? 'in' : 'out'} point`}
          aria-valuemin={0}
          aria-valuemax={timeline.frames - 1}
          aria-valuenow={span[edge]}
          aria-valuetext={timeline.name(span[edge])}
          className={`bg-ember absolute inset-y-0 w-1.5 cursor-ew-resize ${edge === 'inFrame' ? 'left-0' : 'right-0'}`}
          onPointerDown={(event) => {
            onSelect();
            onHold(event, edge === 'inFrame' ? portion.outFrame : portion.inFrame);
          }}
          {...handlers}
          onKeyDown={(event) => nudge(event, edge)}
        />
      ))}
    </div>
  );
}

function spanOf(a: number, b: number): Portion {
  return { inFrame: Math.min(a, b), outFrame: Math.max(a, b) };
}
