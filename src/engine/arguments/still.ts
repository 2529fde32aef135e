import type { FrameSize } from '../../core/geometry/frameSize.ts';
import { inputFrom } from './input.ts';
import { scaleFilter } from './picture.ts';

/** Everything needed to take one exact frame out of a file. */
export interface StillRequest {
  readonly path: string;
  readonly streamIndex: number;
  /** From 0. */
  readonly frame: number;
  /** Where to open the file so that the frame comes first; null counts frames from the start. */
  readonly seekSeconds: number | null;
  readonly matrix: string;
  readonly range: 'limited' | 'full';
  /** null keeps the file's own frame size. */
  readonly size: FrameSize | null;
}

/** Arguments that write the frame as a PNG of 8-bit RGB to standard output. */
export function stillArguments(request: StillRequest): string[] {
  return [...frameArguments(request), '-c:v', 'png', '-compression_level', '3', '-f', 'image2pipe', 'pipe:1'];
}

/** Arguments that write the frame as bare RGB bytes, three a pixel, to standard output. */
export function rawFrameArguments(request: StillRequest): string[] {
  return [...frameArguments(request), '-f', 'rawvideo', 'pipe:1'];
}

function frameArguments(request: StillRequest): string[] {
  const { matrix, range, size, seekSeconds } = request;
  const filters = [scaleFilter(size, { matrix, range }, 'rgb'), 'format=rgb24'];
  if (seekSeconds === null) filters.unshift(`select=eq(n\\,${request.frame})`);
  return [
    ...['-hide_banner', '-nostdin', '-loglevel', 'error'],
    ...inputFrom(request.path, seekSeconds ?? 0),
    ...['-map', `0:${request.streamIndex}`, '-an', '-sn', '-dn', '-frames:v', '1', '-fps_mode', 'passthrough'],
    ...['-vf', filters.join(',')],
  ];
}
