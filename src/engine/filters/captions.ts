import type { DrawnCaptions } from '../../core/picture/captions.ts';
import { renderWorking } from './scale.ts';
import { exactTiming, OWN_TICKS } from './stamp.ts';

/** Captions to be drawn lie under this name where the engine works: a path would have to be escaped. */
export const CAPTIONS_FILE = 'captions.ass';

/** Of a picture in square pixels: by its shape letters are as wide in pixels that are not. */
export const SHOWN_LINES = 1000;

/** They are drawn by the times of frames, which are counted from the first of the result meanwhile. */
export function renderCaptions({ at, shape, from, format }: DrawnCaptions): string {
  const times =
    'frame' in at
      ? `${exactTiming(at.rate)}+${at.frame}`
      : `settb=1/${OWN_TICKS},setpts=PTS-STARTPTS+${Math.round(at.seconds * OWN_TICKS)}`;
  return [
    times,
    renderWorking({ from, format }),
    `ass=${CAPTIONS_FILE}:original_size=${Math.round(shape * SHOWN_LINES)}x${SHOWN_LINES}`,
  ].join(',');
}
