import { Pause, Play, SkipBack, SkipForward, StepBack, StepForward } from 'lucide-react';
import type { ReactNode } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import { shapeOf } from '../../core/geometry/frameSize.ts';
import { frameOfProgramme } from '../hooks/api.ts';
import { useSteadyImage } from '../hooks/useSteadyImage.ts';
import { Hint } from '../kit/Hint.tsx';
import { Notice } from '../kit/Notice.tsx';
import { PositionField } from './PositionField.tsx';
import type { Player } from './usePlayer.ts';

/** The exact frame is asked for at this width: more than is shown. */
const STILL_WIDTH = 960;

/** The programme at the playhead: moving while it plays, the master's exact frame while it does not. */
export function PlayerView({ programme, player }: { readonly programme: ProgrammeView; readonly player: Player }) {
  const { frame, speed } = player;
  const isStill = speed <= 0;
  const width = Math.min(STILL_WIDTH, programme.width);
  const still = useSteadyImage(programme.video && isStill ? frameOfProgramme(programme.id, frame, width) : null);
  const shape = programme.video ? shapeOf(programme, programme.video.pixelAspect) : 1;
  return (
    <div>
      <div
        className="relative w-full bg-black"
        style={{ aspectRatio: programme.video ? Math.max(1, shape) : 16 / 5 }}
        data-testid="player"
        data-frame={frame}
      >
        <video
          ref={player.media}
          className="absolute inset-0 size-full object-contain"
          playsInline
          preload="none"
          aria-label={`${programme.name}, playing`}
        />
        {isStill && still && (
          <img
            src={still}
            alt={`Frame ${frame} of ${programme.name}`}
            className="absolute inset-0 size-full bg-black object-contain"
            data-testid="still"
          />
        )}
        {!programme.video && (
          <p className="absolute inset-0 flex items-center justify-center text-white/80">Sound only</p>
        )}
      </div>
      <Transport programme={programme} player={player} isStill={isStill} />
      {player.problem && (
        <Notice kind="wrong" role="alert">
          {player.problem}
        </Notice>
      )}
    </div>
  );
}

/** What moves the playhead, and where it is. */
function Transport({
  programme,
  player,
  isStill,
}: {
  readonly programme: ProgrammeView;
  readonly player: Player;
  readonly isStill: boolean;
}) {
  const { frame, speed, timeline } = player;
  return (
    <div className="bg-sheet border-rule flex flex-wrap items-center gap-1 border-x border-b px-2 py-1">
      <Key label="To the beginning (Home)" onClick={() => player.seek(0)}>
        <SkipBack size={16} />
      </Key>
      <Key label="One frame back (←)" onClick={() => player.seek(frame - 1)}>
        <StepBack size={16} />
      </Key>
      <Key label={speed === 0 ? 'Play (Space)' : 'Pause (Space)'} onClick={player.toggle}>
        {speed === 0 ? <Play size={18} /> : <Pause size={18} />}
      </Key>
      <Key label="One frame on (→)" onClick={() => player.seek(frame + 1)}>
        <StepForward size={16} />
      </Key>
      <Key label="To the last frame (End)" onClick={() => player.seek(timeline.frames - 1)}>
        <SkipForward size={16} />
      </Key>
      <PositionField
        label="Timecode"
        value={timeline.name(frame)}
        frame={frame}
        timeline={timeline}
        onFrame={player.seek}
        className="ml-2 w-32"
      />
      {programme.video && (
        <PositionField
          label="Frame"
          value={String(frame)}
          frame={frame}
          digits="frame"
          timeline={timeline}
          onFrame={player.seek}
          className="w-20 text-right"
        />
      )}
      <span className="text-quiet ml-auto text-sm">
        {speed !== 0 && speed !== 1 && <span className="figure mr-2">{speed}×</span>}
        {player.via === 'stand-in' && speed > 0 ? 'stand-in copy' : isStill && programme.video ? 'exact frame' : ''}
      </span>
    </div>
  );
}

function Key({
  label,
  onClick,
  children,
}: {
  readonly label: string;
  readonly onClick: () => void;
  readonly children: ReactNode;
}) {
  return (
    <Hint text={label}>
      <button type="button" aria-label={label} onClick={onClick} className="hover:bg-sunk rounded p-1.5">
        {children}
      </button>
    </Hint>
  );
}
