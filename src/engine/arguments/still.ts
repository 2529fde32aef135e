import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { Rational } from '../../core/timing/rational.ts';
import { inputArguments, inputFrom } from './input.ts';
import { scaleFilter, seekSeconds } from './picture.ts';

/** Everything needed to take one exact frame out of a file. */
export interface StillRequest {
  readonly path: string;
  readonly streamIndex: number;
  /** From 0. */
  readonly frame: number;
  readonly frameRate: Rational;
  readonly startSeconds: number;
  /** Otherwise frames are counted from the start. */
  readonly seeksExactly: boolean;
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
  const { matrix, range, size } = request;
  const seek = request.seeksExactly ? seekSeconds(request.frame, request.frameRate, request.startSeconds) : 0;
  const filters = [scaleFilter(size, { matrix, range }, 'rgb'), 'format=rgb24'];
  if (!request.seeksExactly) filters.unshift(`select=eq(n\\,${request.frame})`);
  return [
    ...['-hide_banner', '-nostdin', '-loglevel', 'error'],
    ...(request.seeksExactly ? inputFrom(request.path, seek) : inputArguments(request.path)),
    ...['-map', `0:${request.streamIndex}`, '-an', '-sn', '-dn', '-frames:v', '1', '-fps_mode', 'passthrough'],
    ...['-vf', filters.join(',')],
  ];
}
