import { useMemo } from 'react';
import type { ProgrammeView, StripsView } from '../../contract/views.ts';
import { buildPyramid, readColumns } from '../../core/analysis/pyramid.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { useClock } from '../hooks/useClock.ts';
import { formatSeconds } from '../kit/format.ts';
import { timelineOf } from '../player/timeline.ts';

const COLUMNS = 120;
const HEIGHT = 22;

interface Props {
  readonly programme: ProgrammeView;
  /** null is the whole programme. */
  readonly portion: Portion | null;
  readonly strips: StripsView | undefined;
}

/**
 * How much of a programme is meant, wherever something can be queued: a small picture of the strip with the portion
 * standing out, its length and its share.
 */
export function PortionGlance({ programme, portion, strips }: Props) {
  const timeline = timelineOf(programme, useClock(programme));
  const { clock, name } = timeline;
  const { inFrame, outFrame } = portion ?? { inFrame: 0, outFrame: timeline.frames - 1 };
  const isWhole = outFrame - inFrame + 1 >= timeline.frames;
  const [begins, ends] = [clock.secondsOf(inFrame), clock.secondsOf(outFrame + 1)];
  return (
    <div className="flex items-center gap-3" data-testid="portion-glance">
      <SmallStrip
        from={begins / timeline.seconds}
        to={ends / timeline.seconds}
        seconds={timeline.seconds}
        strips={strips}
      />
      <span>
        {isWhole ? 'The whole programme: ' : ''}
        <span className="figure">{formatSeconds(ends - begins)}</span>
        {!isWhole && (
          <>
            , <span className="figure">{sharePercent((ends - begins) / timeline.seconds)}</span> of the programme,{' '}
            <span className="figure">
              {name(inFrame)} to {name(outFrame)}
            </span>
            , both included
          </>
        )}
      </span>
    </div>
  );
}

interface SmallStripProps extends Pick<Props, 'strips'> {
  /** Where the portion begins and ends, as shares of the length. */
  readonly from: number;
  readonly to: number;
  readonly seconds: number;
}

function SmallStrip({ from, to, seconds, strips }: SmallStripProps) {
  // The page is drawn again with every frame that plays; hours of values must not be reduced each time.
  const columns = useMemo(() => (strips ? columnsOf(strips, seconds) : []), [strips, seconds]);
  const most = Math.max(1, ...columns.filter(Number.isFinite));
  return (
    <svg width={COLUMNS} height={HEIGHT} aria-hidden="true" className="bg-sunk shrink-0 rounded-sm">
      {columns.map((value, column) => {
        const middle = (column + 0.5) / COLUMNS;
        const size = Math.max(1, Math.sqrt(value / most) * HEIGHT);
        return (
          <rect
            key={column}
            x={column}
            y={HEIGHT - size}
            width={1}
            height={size}
            fill="var(--measured)"
            opacity={middle >= from && middle <= to ? 1 : 0.25}
          />
        );
      })}
      <rect
        x={from * COLUMNS}
        y={0.5}
        width={Math.max(2, (to - from) * COLUMNS - 1)}
        height={HEIGHT - 1}
        fill="none"
        stroke="var(--ember)"
      />
    </svg>
  );
}

/** How busy the picture is, or what the source spends, or how loud it is: whatever is known. */
function columnsOf({ busyness, spent, sound, stepSeconds }: StripsView, seconds: number): number[] {
  const ofPicture = busyness ?? (spent.length > 0 ? spent : null);
  const known = ofPicture ?? (sound?.peaks ?? []).map((peak) => Math.max(0, peak + 60));
  const values = seconds / (ofPicture ? stepSeconds : (sound?.stepSeconds ?? 1));
  return known.length > 0 ? Array.from(readColumns(buildPyramid(known), 0, values, COLUMNS, 'most')) : [];
}

function sharePercent(share: number): string {
  return `${(share * 100).toFixed(share < 0.1 ? 1 : 0)} %`;
}
