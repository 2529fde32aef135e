import { useHotkeys } from 'react-hotkeys-hook';
import type { Mode, Zoom } from './PictureView.tsx';

interface Desk {
  readonly frame: number;
  readonly last: number;
  readonly worst: number;
  /** Frames in a second. */
  readonly second: number;
  readonly goTo: (frame: number) => void;
  readonly flip: () => void;
  readonly setMode: (mode: Mode) => void;
  readonly setZoom: (zoom: Zoom) => void;
}

/** The desk's keys. */
export function useDeskKeys({ frame, last, worst, second, goTo, flip, setMode, setZoom }: Desk): void {
  const now = { preventDefault: true };
  useHotkeys('left', () => goTo(frame - 1), now, [frame, last]);
  useHotkeys('right', () => goTo(frame + 1), now, [frame, last]);
  useHotkeys('shift+left', () => goTo(frame - second), now, [frame, last]);
  useHotkeys('shift+right', () => goTo(frame + second), now, [frame, last]);
  useHotkeys('home', () => goTo(0), now, [last]);
  useHotkeys('end', () => goTo(last), now, [last]);
  useHotkeys('w', () => goTo(worst), [worst]);
  useHotkeys('f', flip, [flip]);
  useHotkeys('s', () => setMode('split'));
  useHotkeys('b', () => setMode('side'));
  useHotkeys('0', () => setZoom('fit'));
  useHotkeys('1', () => setZoom('1'));
  useHotkeys('4', () => setZoom('4'));
}
