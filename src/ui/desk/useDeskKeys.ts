import { useActKey, useWorkKey } from '../hooks/useWorkKey.ts';
import type { Mode } from './PictureView.tsx';
import type { Zoom } from './viewport.ts';

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
  /** Looks elsewhere, by so many tenths of the view. */
  readonly look: (x: number, y: number) => void;
}

/** The desk's keys. */
export function useDeskKeys(desk: Desk): void {
  const { frame, last, worst, second, goTo, flip, setMode, setZoom, look } = desk;
  useWorkKey('left', () => goTo(frame - 1));
  useWorkKey('right', () => goTo(frame + 1));
  useWorkKey('shift+left', () => goTo(frame - second));
  useWorkKey('shift+right', () => goTo(frame + second));
  useWorkKey('ctrl+left', () => look(-1, 0));
  useWorkKey('ctrl+right', () => look(1, 0));
  useWorkKey('ctrl+up', () => look(0, -1));
  useWorkKey('ctrl+down', () => look(0, 1));
  useWorkKey('home', () => goTo(0));
  useWorkKey('end', () => goTo(last));
  useActKey('w', () => goTo(worst));
  useActKey('f', flip);
  useActKey('s', () => setMode('split'));
  useActKey('b', () => setMode('side'));
  useActKey('0', () => setZoom('fit'));
  useActKey('1', () => setZoom('1'));
  useActKey('2', () => setZoom('2'));
  useActKey('4', () => setZoom('4'));
  useActKey('8', () => setZoom('8'));
}
