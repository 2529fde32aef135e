import { useEffect, useMemo, useState, type RefObject } from 'react';
import { useWorkKey } from '../hooks/useWorkKey.ts';
import type { Player } from '../player/usePlayer.ts';
import { panView, revealFrame, wholeView, zoomView, type Length, type View } from './view.ts';

/** What one press of a key or button shows of what was shown before. */
export const ZOOM_STEP = 0.5;
const WHEEL_ZOOM = 0.0022;

export interface StripsView {
  readonly view: View;
  /** Around the playhead, or the middle where that is out of sight; below 1 goes closer. */
  readonly zoom: (factor: number) => void;
  readonly showWhole: () => void;
}

/**
 * Which part of the length is shown, and the keys and the wheel that change it.
 *
 * @param host - The element the wheel is turned over.
 */
export function useStripsView(host: RefObject<HTMLDivElement | null>, { timeline, frame }: Player): StripsView {
  // The whole stays the whole when the times of a varying rate arrive and its length is known better.
  const [part, setView] = useState<View | null>(null);
  const whole = useMemo(() => wholeView(timeline), [timeline]);
  const view = part ?? whole;
  const [begins, ends] = [timeline.clock.secondsOf(frame), timeline.clock.secondsOf(frame + 1)];
  const isInSight = begins >= view.from && ends <= view.to;
  const anchor = isInSight ? (begins + ends) / 2 : (view.from + view.to) / 2;
  const zoom = (factor: number) => setView((now) => zoomView(now ?? whole, timeline, anchor, factor));
  const showWhole = () => setView(null);
  useWorkKey('equal, shift+equal, plus, add', () => zoom(ZOOM_STEP));
  useWorkKey('minus, subtract', () => zoom(1 / ZOOM_STEP));
  useWorkKey('0', showWhole);
  // What plays or is stepped to stays in sight; looking elsewhere meanwhile is free.
  const [revealed, setRevealed] = useState(frame);
  if (revealed !== frame) {
    setRevealed(frame);
    setView((now) => now && revealFrame(now, timeline, { begins, ends }));
  }
  useWheel(host, view, timeline, setView);
  return { view, zoom, showWhole };
}

/** With Control the wheel zooms around the pointer, sideways or with Shift it pans; alone it scrolls the page. */
function useWheel(
  host: RefObject<HTMLDivElement | null>,
  view: View,
  length: Length,
  setView: (view: View) => void,
): void {
  useEffect(() => {
    const element = host.current;
    if (!element) return undefined;
    const turn = (event: WheelEvent) => {
      const box = element.getBoundingClientRect();
      const shown = view.to - view.from;
      const sideways = event.shiftKey ? event.deltaY : event.deltaX;
      if (event.ctrlKey || event.metaKey) {
        const anchor = view.from + ((event.clientX - box.left) / box.width) * shown;
        setView(zoomView(view, length, anchor, Math.exp(event.deltaY * WHEEL_ZOOM)));
      } else if (Math.abs(sideways) > 0) setView(panView(view, length, (sideways / box.width) * shown));
      else return;
      event.preventDefault();
    };
    element.addEventListener('wheel', turn, { passive: false });
    return () => element.removeEventListener('wheel', turn);
  }, [host, view, length, setView]);
}
