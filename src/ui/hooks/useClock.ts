import { useMemo } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import { programmeClock } from '../../core/programme/programmeClock.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import { useFrameTimes } from './queries.ts';

/** When the frames of a programme are shown. A variable rate is taken for its mean until its times have come. */
export function useClock(programme: ProgrammeView): FrameClock {
  const { data } = useFrameTimes(programme.id, programme.video?.constantRate === false);
  const seconds = data?.seconds ?? null;
  const { frameRate, frameCount, durationSeconds } = programme;
  return useMemo(
    () => programmeClock({ frameRate, frameCount, durationSeconds }, seconds),
    [seconds, durationSeconds, frameRate, frameCount],
  );
}
