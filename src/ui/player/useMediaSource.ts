import { useCallback, useEffect, useRef, useState, type RefObject } from 'react';
import type { ProgrammeView } from '../../contract/views.ts';
import type { FrameClock } from '../../core/timing/frameClock.ts';
import { webTypeOf } from '../../core/programme/playable.ts';
import { fileOfProgramme } from '../hooks/api.ts';
import { streamStandIn } from './standInStream.ts';

/** How a programme is played: as it is, or by a stand-in. */
export type Via = 'master' | 'stand-in';

/**
 * Gives a media element what it plays, when it is first asked to: the master where the browser can, otherwise a
 * stand-in.
 *
 * @param position - The frame to begin at.
 */
export function useMediaSource(
  programme: ProgrammeView,
  clock: FrameClock,
  position: RefObject<number>,
  timeOf: (frame: number) => number,
  onProblem: (message: string) => void,
) {
  const detach = useRef<(() => void) | null>(null);
  const [via, setVia] = useState<Via | null>(null);
  const attach = useCallback(
    (element: HTMLVideoElement) => {
      const standIn = () => {
        detach.current?.();
        setVia('stand-in');
        detach.current = streamStandIn(element, programme, clock, onProblem);
        element.currentTime = timeOf(position.current);
        void element.play().catch(() => undefined);
      };
      const type = webTypeOf(programme);
      if (!type || element.canPlayType(type) === '') return standIn();
      setVia('master');
      element.src = fileOfProgramme(programme.id);
      element.currentTime = timeOf(position.current);
      // Some codecs are said to play and then show nothing but sound.
      const judge = () => {
        if (programme.video && element.videoWidth === 0) standIn();
      };
      element.addEventListener('loadedmetadata', judge, { once: true });
      element.addEventListener('error', standIn, { once: true });
      detach.current = () => {
        element.removeEventListener('loadedmetadata', judge);
        element.removeEventListener('error', standIn);
        element.removeAttribute('src');
        element.load();
      };
    },
    [programme, clock, position, timeOf, onProblem],
  );
  useEffect(
    () => () => {
      detach.current?.();
      detach.current = null;
    },
    [programme.id],
  );
  return { attach, via, isAttached: useCallback(() => detach.current !== null, []) };
}
