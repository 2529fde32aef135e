import { useMemo } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import { constantClock, listedClock, type FrameClock } from '../../core/timing/frameClock.ts';
import { useFrameTimes } from './queries.ts';

/** When the frames of a programme are shown. A variable rate is taken for its mean until its times have come. */
export function useClock(programme: ProgrammeView): FrameClock {
  const { id, video, frameRate, frameCount, durationSeconds } = programme;
  const { data } = useFrameTimes(id, video?.constantRate === false);
  const seconds = data?.seconds;
  return useMemo(
    () => (seconds ? listedClock(seconds, durationSeconds) : constantClock(frameRate, frameCount)),
    [seconds, durationSeconds, frameRate, frameCount],
  );
}
