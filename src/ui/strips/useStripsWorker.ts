import { useTheme } from 'next-themes';
import { useEffect, useRef, useState, type RefObject } from 'react';
import type { ProgrammeView, StripsView } from '../../contract/views.ts';
import { useFrameTimes } from '../hooks/queries.ts';
import type { StripColours, StripMarks, StripsMessage } from './stripsMessages.ts';
import type { View } from './view.ts';

const COLOURS = ['ink', 'quiet', 'sunk', 'measured', 'sound', 'container', 'ember'] as const;

/**
 * Has the strips drawn by a worker, so that neither long data nor pictures ever hold up the page.
 *
 * @param host - The element the drawing fills.
 * @returns The width it has.
 */
export function useStripsWorker(
  host: RefObject<HTMLDivElement | null>,
  programme: ProgrammeView,
  strips: StripsView | undefined,
  marks: StripMarks,
  view: View,
): number {
  const worker = useRef<Worker | null>(null);
  const [width, setWidth] = useState(0);
  const { resolvedTheme } = useTheme();
  const { id, video } = programme;
  const { data: times } = useFrameTimes(id, video?.constantRate === false);
  const frameTimes = times?.seconds ?? null;

  useEffect(() => {
    const element = host.current;
    if (!element) return undefined;
    const canvas = document.createElement('canvas');
    canvas.className = 'absolute inset-0 size-full';
    canvas.setAttribute('aria-hidden', 'true');
    element.prepend(canvas);
    const drawer = new Worker(new URL('./strips.worker.ts', import.meta.url), { type: 'module' });
    worker.current = drawer;
    const offscreen = canvas.transferControlToOffscreen();
    drawer.postMessage({ type: 'canvas', canvas: offscreen } satisfies StripsMessage, [offscreen]);
    const observer = new ResizeObserver(() => setWidth(element.clientWidth));
    observer.observe(element);
    return () => {
      observer.disconnect();
      drawer.terminate();
      worker.current = null;
      canvas.remove();
    };
  }, [host, id]);

  useEffect(() => {
    const { origin } = window.location;
    worker.current?.postMessage({ type: 'programme', programme, frameTimes, origin } satisfies StripsMessage);
  }, [programme, frameTimes]);

  useEffect(() => {
    if (strips) worker.current?.postMessage({ type: 'strips', strips, marks } satisfies StripsMessage);
  }, [strips, marks, id]);

  useEffect(() => {
    const element = host.current;
    if (!element || width === 0) return;
    const style = getComputedStyle(element);
    const colours = Object.fromEntries(COLOURS.map((name) => [name, style.getPropertyValue(`--${name}`)]));
    const message: StripsMessage = {
      type: 'view',
      view,
      width,
      density: window.devicePixelRatio,
      colours: colours as unknown as StripColours,
    };
    worker.current?.postMessage(message);
  }, [host, view, width, resolvedTheme, id]);

  return width;
}
