import { Maximize2, ZoomIn, ZoomOut } from 'lucide-react';
import { useEffect, useMemo, useRef, useState, type PointerEvent } from 'react';
import type { AnalysisView, PortionView, ProgrammeView } from '../../contract/views.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { frameToTimecode } from '../../core/timing/timecode.ts';
import { useStrips } from '../hooks/queries.ts';
import { useWorkKey } from '../hooks/useWorkKey.ts';
import { Button } from '../kit/Button.tsx';
import type { Timeline } from '../player/timeline.ts';
import type { Player } from '../player/usePlayer.ts';
import { PortionLane } from './PortionLane.tsx';
import { LANES, stripsHeight, type StripMarks } from './stripsMessages.ts';
import { useStripsWorker } from './useStripsWorker.ts';
import { panView, revealFrame, wholeView, zoomView, type View } from './view.ts';

interface Props {
  readonly programme: ProgrammeView;
  readonly analysis: AnalysisView | undefined;
  readonly player: Player;
  readonly portions: readonly PortionView[];
  readonly selected: string | null;
  readonly onSelect: (id: string) => void;
  /** A portion was drawn (without id) or its edge was dragged. */
  readonly onPortion: (portion: Portion, id: string | null) => void;
}

const ZOOM_STEP = 0.5;
const WHEEL_ZOOM = 0.0022;

/** The programme along its length: pictures, sound, how busy the picture is, what the source spends. */
export function StripsSection({ programme, analysis, player, portions, selected, onSelect, onPortion }: Props) {
  const { timeline, frame } = player;
  const host = useRef<HTMLDivElement>(null);
  const [view, setView] = useState<View>(() => wholeView(timeline.frames));
  const { data: strips } = useStrips(programme.id);
  const marks = useMemo(() => marksOf(analysis), [analysis]);
  const width = useStripsWorker(host, programme, timeline, strips, marks, view);
  const hasPicture = programme.video !== null;

  const isInSight = frame >= view.from && frame + 1 <= view.to;
  const anchor = isInSight ? frame + 0.5 : (view.from + view.to) / 2;
  const zoom = (factor: number) => setView((now) => zoomView(now, timeline.frames, anchor, factor));
  useWorkKey('equal, shift+equal, plus, add', () => zoom(ZOOM_STEP));
  useWorkKey('minus, subtract', () => zoom(1 / ZOOM_STEP));
  useWorkKey('0', () => setView(wholeView(timeline.frames)));
  // What plays or is stepped to stays in sight; looking elsewhere meanwhile is free.
  const [revealed, setRevealed] = useState(frame);
  if (revealed !== frame) {
    setRevealed(frame);
    setView(revealFrame(view, timeline.frames, frame));
  }
  useWheel(host, view, timeline.frames, setView);

  const frameAt = (clientX: number) => {
    const box = host.current?.getBoundingClientRect();
    if (!box) return 0;
    const at = view.from + ((clientX - box.left) / box.width) * (view.to - view.from);
    return Math.max(0, Math.min(timeline.frames - 1, Math.floor(at)));
  };
  const scrub = (event: PointerEvent<HTMLDivElement>) => {
    if (event.buttons !== 1) return;
    if (event.type === 'pointerdown') {
      event.currentTarget.setPointerCapture(event.pointerId);
      player.pause();
    }
    player.seek(frameAt(event.clientX));
  };
  const share = (at: number) => `${(100 * (at - view.from)) / (view.to - view.from)}%`;
  return (
    <section aria-label="Along its length" className="mt-5" data-testid="strips">
      <StripsHead
        view={view}
        timeline={timeline}
        analysis={analysis}
        onZoom={zoom}
        onWhole={() => setView(wholeView(timeline.frames))}
      />
      {hasPicture && (
        <PortionLane
          view={view}
          timeline={timeline}
          portions={portions}
          selected={selected}
          frameAt={frameAt}
          onSelect={onSelect}
          onPortion={onPortion}
        />
      )}
      <div
        ref={host}
        className="relative cursor-crosshair touch-none overflow-hidden"
        style={{ height: stripsHeight(hasPicture) }}
        onPointerDown={scrub}
        onPointerMove={scrub}
        data-testid="strips-drawing"
        data-width={width}
        data-from={view.from.toFixed(2)}
        data-to={view.to.toFixed(2)}
      >
        {hasPicture &&
          portions.map((portion) => (
            <Outside key={portion.id} portion={portion} isSelected={portion.id === selected} share={share} />
          ))}
        <LaneNames hasPicture={hasPicture} isMeasured={strips?.busyness != null} />
        <span
          aria-hidden="true"
          className="bg-ember pointer-events-none absolute inset-y-0 w-0.5"
          style={{ left: share(frame + (view.to - view.from < 200 ? 0.5 : 0)) }}
        />
      </div>
    </section>
  );
}

interface HeadProps {
  readonly view: View;
  readonly timeline: Timeline;
  readonly analysis: AnalysisView | undefined;
  readonly onZoom: (factor: number) => void;
  readonly onWhole: () => void;
}

/** Which part of the length is shown, how far its analysis is, and what changes the view. */
function StripsHead({ view, timeline, analysis, onZoom, onWhole }: HeadProps) {
  const isWhole = view.to - view.from >= timeline.frames;
  const name = (frame: number) => frameToTimecode(Math.min(timeline.frames - 1, frame), timeline.rate, timeline.start);
  return (
    <div className="mb-1 flex items-center gap-3">
      <span className="text-quiet text-sm">
        {isWhole ? 'The whole length' : `${name(Math.floor(view.from))} to ${name(Math.ceil(view.to) - 1)}`}
      </span>
      <AnalysisState analysis={analysis} />
      <span className="ml-auto flex gap-1">
        <Button look="quiet" aria-label="Closer" hotkey="+" onClick={() => onZoom(ZOOM_STEP)}>
          <ZoomIn aria-hidden="true" size={16} />
        </Button>
        <Button look="quiet" aria-label="Further" hotkey="−" disabled={isWhole} onClick={() => onZoom(1 / ZOOM_STEP)}>
          <ZoomOut aria-hidden="true" size={16} />
        </Button>
        <Button look="quiet" aria-label="The whole length" hotkey="0" disabled={isWhole} onClick={onWhole}>
          <Maximize2 aria-hidden="true" size={15} />
        </Button>
      </span>
    </div>
  );
}

/** A line at each end of a portion, over all lanes. */
function Outside({
  portion,
  isSelected,
  share,
}: {
  readonly portion: Portion;
  readonly isSelected: boolean;
  readonly share: (frame: number) => string;
}) {
  return (
    <span
      aria-hidden="true"
      className={`pointer-events-none absolute inset-y-0 border-x-2 ${isSelected ? 'border-ember' : 'border-quiet'}`}
      style={{
        left: share(portion.inFrame),
        width: `calc(${share(portion.outFrame + 1)} - ${share(portion.inFrame)})`,
      }}
    />
  );
}

function LaneNames({ hasPicture, isMeasured }: { readonly hasPicture: boolean; readonly isMeasured: boolean }) {
  const names = hasPicture
    ? [
        ['Sound', LANES.pictures + LANES.gap],
        [isMeasured ? 'Busy-ness' : 'Busy-ness, being measured', LANES.pictures + LANES.sound + 2 * LANES.gap],
        ['Spent by the source', LANES.pictures + LANES.sound + LANES.busyness + 3 * LANES.gap],
      ]
    : [['Sound', 0]];
  return names.map(([name, top]) => (
    <span
      key={name}
      className="bg-paper/80 text-ink pointer-events-none absolute left-1 rounded px-1 text-xs leading-tight"
      style={{ top: Number(top) + 1 }}
    >
      {name}
    </span>
  ));
}

function AnalysisState({ analysis }: { readonly analysis: AnalysisView | undefined }) {
  if (!analysis || analysis.state === 'failed') return null;
  if (analysis.state === 'done') {
    return <span className="text-quiet text-sm">Analysed in {analysis.costSeconds?.toFixed(1)} s</span>;
  }
  return (
    <span className="text-quiet flex items-center gap-2 text-sm" role="status">
      {analysis.state === 'waiting' ? 'Waiting to be analysed' : 'Being analysed'}
      <progress value={analysis.fraction} max={1} aria-label="Analysis" className="accent-measured h-2 w-28" />
      <span className="figure">{Math.round(analysis.fraction * 100)} %</span>
    </span>
  );
}

function marksOf(analysis: AnalysisView | undefined): StripMarks {
  return {
    sceneChanges: analysis?.sceneChanges ?? [],
    black: analysis?.black ?? [],
    silence: (analysis?.silence ?? []).flatMap(({ inFrame, outFrame, startSeconds, endSeconds }) => [
      { inFrame: inFrame ?? startSeconds * 100, outFrame: outFrame ?? endSeconds * 100 },
    ]),
  };
}

/** With Control the wheel zooms around the pointer, sideways or with Shift it pans; alone it scrolls the page. */
function useWheel(
  host: React.RefObject<HTMLDivElement | null>,
  view: View,
  frames: number,
  setView: (view: View) => void,
): void {
  useEffect(() => {
    const element = host.current;
    if (!element) return undefined;
    const turn = (event: WheelEvent) => {
      const box = element.getBoundingClientRect();
      const length = view.to - view.from;
      const sideways = event.shiftKey ? event.deltaY : event.deltaX;
      if (event.ctrlKey || event.metaKey) {
        const anchor = view.from + ((event.clientX - box.left) / box.width) * length;
        setView(zoomView(view, frames, anchor, Math.exp(event.deltaY * WHEEL_ZOOM)));
      } else if (Math.abs(sideways) > 0) setView(panView(view, frames, (sideways / box.width) * length));
      else return;
      event.preventDefault();
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => element.removeEventListener('wheel', turn);
  }, [host, view, frames, setView]);
}
