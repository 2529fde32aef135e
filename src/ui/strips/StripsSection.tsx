import { Maximize2, ZoomIn, ZoomOut } from 'lucide-react';
import { useMemo, useRef, type PointerEvent } from 'react';
import type { AnalysisView, PortionView, ProgrammeView } from '../../contract/views.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { useStrips } from '../hooks/queries.ts';
import { Button } from '../kit/Button.tsx';
import { Hint } from '../kit/Hint.tsx';
import { ProgressBar } from '../kit/ProgressBar.tsx';
import type { Timeline } from '../player/timeline.ts';
import type { Player } from '../player/usePlayer.ts';
import { PortionLane } from './PortionLane.tsx';
import { LANES, stripsHeight, type StripMarks } from './stripsMessages.ts';
import { useStripsWorker } from './useStripsWorker.ts';
import { ZOOM_STEP, useStripsView } from './useStripsView.ts';
import type { View } from './view.ts';

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

/** The programme along its length: pictures, sound, how busy the picture is, what the source spends. */
export function StripsSection({ programme, analysis, player, portions, selected, onSelect, onPortion }: Props) {
  const { timeline, frame } = player;
  const { clock } = timeline;
  const host = useRef<HTMLDivElement>(null);
  const { view, zoom, showWhole } = useStripsView(host, player);
  const { data: strips } = useStrips(programme.id);
  const marks = useMemo(() => marksOf(analysis), [analysis]);
  const width = useStripsWorker(host, programme, strips, marks, view);
  const hasPicture = programme.video !== null;

  const frameAt = (clientX: number) => {
    const box = host.current?.getBoundingClientRect();
    if (!box) return 0;
    const at = view.from + ((clientX - box.left) / box.width) * (view.to - view.from);
    const found = clock.frameAt(at);
    // The clock takes a moment just before a frame for it; what is pointed at is the one before.
    return clock.secondsOf(found) > at ? Math.max(0, found - 1) : found;
  };
  const scrub = (event: PointerEvent<HTMLDivElement>) => {
    if (event.buttons !== 1) return;
    if (event.type === 'pointerdown') {
      event.currentTarget.setPointerCapture(event.pointerId);
      player.pause();
    }
    player.seek(frameAt(event.clientX));
  };
  const shareAt = (seconds: number) => `${(100 * (seconds - view.from)) / (view.to - view.from)}%`;
  const share = (at: number) => shareAt(clock.secondsOf(at));
  // Close up the frame's own picture lies right of where it begins.
  const isClose = (view.to - view.from) * timeline.framesPerSecond < 200;
  const playhead = isClose ? (clock.secondsOf(frame) + clock.secondsOf(frame + 1)) / 2 : clock.secondsOf(frame);
  return (
    <section aria-label="Along its length" className="mt-5" data-testid="strips">
      <StripsHead view={view} timeline={timeline} analysis={analysis} onZoom={zoom} onWhole={showWhole} />
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
        data-from={view.from.toFixed(3)}
        data-to={view.to.toFixed(3)}
      >
        {hasPicture &&
          portions.map((portion) => (
            <Outside key={portion.id} portion={portion} isSelected={portion.id === selected} share={share} />
          ))}
        <LaneNames hasPicture={hasPicture} isMeasured={strips?.busyness != null} />
        <Playhead left={shareAt(playhead)} />
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
  const isWhole = view.to - view.from >= timeline.seconds;
  const { clock, name } = timeline;
  const [first, end] = [clock.frameAt(view.from), clock.frameAt(view.to)];
  const last = clock.secondsOf(end) >= view.to ? Math.max(first, end - 1) : end;
  return (
    <div className="mb-1 flex items-center gap-3">
      <span className="text-quiet text-sm">{isWhole ? 'The whole length' : `${name(first)} to ${name(last)}`}</span>
      <AnalysisState analysis={analysis} />
      <span className="ml-auto flex gap-1">
        <Hint text="Closer">
          <Button look="quiet" aria-label="Closer" hotkey="+" onClick={() => onZoom(ZOOM_STEP)}>
            <ZoomIn aria-hidden="true" size={16} />
          </Button>
        </Hint>
        <Hint text="Further">
          <Button look="quiet" aria-label="Further" hotkey="−" disabled={isWhole} onClick={() => onZoom(1 / ZOOM_STEP)}>
            <ZoomOut aria-hidden="true" size={16} />
          </Button>
        </Hint>
        <Hint text="The whole length">
          <Button look="quiet" aria-label="The whole length" hotkey="0" disabled={isWhole} onClick={onWhole}>
            <Maximize2 aria-hidden="true" size={15} />
          </Button>
        </Hint>
      </span>
    </div>
  );
}

/** Where it plays: a thin line with a head, unlike the brackets of in and out. */
function Playhead({ left }: { readonly left: string }) {
  return (
    <span aria-hidden="true" className="pointer-events-none absolute inset-y-0 w-0" style={{ left }}>
      <span className="bg-ink absolute inset-y-0 -left-px w-0.5 shadow-[0_0_0_1px_var(--paper)]" />
      <span className="border-t-ink absolute top-0 -left-[7px] border-x-[7px] border-t-[9px] border-x-transparent" />
    </span>
  );
}

/** A bracket at each end of a portion, over all lanes, open towards what is meant. */
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
    >
      {(['left-0 border-l-4', 'right-0 border-r-4'] as const).map((side) => (
        <span
          key={side}
          className={`absolute inset-y-0 w-2 border-y-4 ${side} ${isSelected ? 'border-ember' : 'border-quiet'}`}
        />
      ))}
    </span>
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
      <ProgressBar fraction={analysis.fraction} label="Analysis" className="h-2 w-28" />
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
