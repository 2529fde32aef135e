import { useCallback, useEffect, useMemo, useRef, useState, type RefObject } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import { useClock } from '../hooks/useClock.ts';
import { timelineOf, type Timeline } from './timeline.ts';
import { useMediaSource, type Via } from './useMediaSource.ts';

/** Pressing on doubles the speed up to this. */
const FASTEST = 8;

/** Backwards the frames come from the engine, one at a time; more a second it does not manage. */
const BACKWARD_STEPS_PER_SECOND = 6;

export interface Player {
  readonly media: RefObject<HTMLVideoElement | null>;
  readonly timeline: Timeline;
  /** The frame at the playhead. */
  readonly frame: number;
  /** 0 while paused; negative backwards. */
  readonly speed: number;
  /** How it is played: as it is, or by a stand-in; null before the first time. */
  readonly via: Via | null;
  readonly problem: string | null;
  readonly seek: (frame: number) => void;
  readonly toggle: () => void;
  readonly pause: () => void;
  /** Forwards; again for faster. */
  readonly forward: () => void;
  readonly backward: () => void;
}

/** Plays a programme: where the playhead is, and what moves it. */
export function usePlayer(programme: ProgrammeView): Player {
  const media = useRef<HTMLVideoElement | null>(null);
  const clock = useClock(programme);
  const timeline = useMemo(() => timelineOf(programme, clock), [programme, clock]);
  const [frame, setFrame] = useState(programme.openingFrame);
  const [speed, setSpeed] = useState(0);
  const [problem, setProblem] = useState<string | null>(null);
  const position = useRef(programme.openingFrame);

  const show = useCallback(
    (wanted: number) => {
      position.current = Math.max(0, Math.min(timeline.frames - 1, Math.round(wanted)));
      setFrame(position.current);
    },
    [timeline],
  );
  // What was pointed at before the times of a varying rate were there meant the moment, not the frame's number.
  const pointedBy = useRef(clock);
  useEffect(() => {
    const before = pointedBy.current;
    pointedBy.current = clock;
    if (before === clock || position.current === programme.openingFrame) return;
    show(clock.frameAt(before.secondsOf(position.current)));
  }, [clock, programme, show]);
  // The middle of a frame names it whatever the rounding.
  const timeOf = useCallback(
    (at: number) => (timeline.clock.secondsOf(at) + timeline.clock.secondsOf(at + 1)) / 2,
    [timeline],
  );

  const { attach, via, isAttached } = useMediaSource(programme, timeline.clock, position, timeOf, setProblem);

  const pause = useCallback(() => {
    const element = media.current;
    if (element && !element.paused) {
      element.pause();
      // It may have gone on by a frame since it was last heard of.
      show(timeline.clock.frameAt(element.currentTime));
    }
    setSpeed(0);
  }, [show, timeline]);

  const run = useCallback(
    (wanted: number) => {
      const element = media.current;
      if (!element) return;
      setSpeed(wanted);
      if (wanted < 0) return element.pause();
      if (!isAttached()) attach(element);
      if (position.current >= timeline.frames - 1) show(0);
      if (element.paused) element.currentTime = timeOf(position.current);
      element.playbackRate = wanted;
      element.play().catch((error: unknown) => {
        // A pause that came before playing began is no fault.
        if (error instanceof DOMException && error.name === 'AbortError') return;
        setProblem('The browser could not play this.');
        setSpeed(0);
      });
    },
    [attach, isAttached, show, timeOf, timeline],
  );

  const seek = useCallback(
    (wanted: number) => {
      show(wanted);
      const element = media.current;
      if (element && isAttached()) element.currentTime = timeOf(position.current);
    },
    [show, timeOf, isAttached],
  );

  useFollow(media, speed > 0, timeline, programme.video !== null, show, pause);
  useBackward(speed, timeline, position, show, setSpeed);

  return {
    media,
    timeline,
    frame,
    speed,
    via,
    problem,
    seek,
    pause,
    toggle: () => (speed === 0 ? run(1) : pause()),
    forward: () => run(speed > 0 ? Math.min(FASTEST, speed * 2) : 1),
    backward: () => run(speed < 0 ? Math.max(-FASTEST, speed * 2) : -1),
  };
}

/** While it plays, the playhead follows the picture that is really shown. */
function useFollow(
  media: RefObject<HTMLVideoElement | null>,
  isPlaying: boolean,
  timeline: Timeline,
  hasPicture: boolean,
  show: (frame: number) => void,
  onEnd: () => void,
): void {
  useEffect(() => {
    const element = media.current;
    if (!isPlaying || !element) return undefined;
    let handle = 0;
    const follow = (seconds: number) => {
      show(timeline.clock.frameAt(seconds));
      ask();
    };
    const ask = () => {
      handle = hasPicture
        ? element.requestVideoFrameCallback((_, { mediaTime }) => follow(mediaTime))
        : requestAnimationFrame(() => follow(element.currentTime));
    };
    ask();
    element.addEventListener('ended', onEnd);
    return () => {
      element.removeEventListener('ended', onEnd);
      if (hasPicture) element.cancelVideoFrameCallback(handle);
      else cancelAnimationFrame(handle);
    };
  }, [media, isPlaying, timeline, hasPicture, show, onEnd]);
}

/** Backwards a browser cannot play, so the frames are stepped through. */
function useBackward(
  speed: number,
  timeline: Timeline,
  position: RefObject<number>,
  show: (frame: number) => void,
  setSpeed: (speed: number) => void,
): void {
  useEffect(() => {
    if (speed >= 0) return undefined;
    const step = Math.max(1, Math.round((timeline.framesPerSecond * -speed) / BACKWARD_STEPS_PER_SECOND));
    const timer = setInterval(() => {
      if (position.current <= 0) setSpeed(0);
      else show(position.current - step);
    }, 1000 / BACKWARD_STEPS_PER_SECOND);
    return () => clearInterval(timer);
  }, [speed, timeline, position, show, setSpeed]);
}
