import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { PictureStep } from '../../core/picture/chain.ts';
import type { Sampling } from '../../core/picture/scale.ts';
import type { Opening } from '../../core/programme/opening.ts';
import { renderChain, skipFilters } from '../filters/picture.ts';
import { renderScale } from '../filters/scale.ts';
import { inputFrom } from './input.ts';

/** Everything needed to take one exact frame out of a file. */
export interface StillRequest {
  readonly path: string;
  readonly streamIndex: number;
  /** From 0. */
  readonly frame: number;
  /** Where to open the file, and how many frames come before the wanted one from there. */
  readonly opening: Opening & { readonly framesBefore: number };
  /** What the frame goes through before it is shown. */
  readonly chain: readonly PictureStep[];
  readonly sampling: Sampling;
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
  const { sampling, size, opening, chain } = request;
  const filters = [
    ...skipFilters(opening),
    ...renderChain(chain),
    ...(opening.framesBefore > 0 ? [`select=eq(n\\,${opening.framesBefore})`] : []),
    renderScale({ size, from: sampling, to: 'rgb' }),
    'format=rgb24',
  ];
  return [
    ...['-hide_banner', '-nostdin', '-loglevel', 'error'],
    ...inputFrom(request.path, opening.atSeconds),
    ...['-map', `0:${request.streamIndex}`, '-an', '-sn', '-dn', '-frames:v', '1', '-fps_mode', 'passthrough'],
    ...['-vf', filters.join(',')],
  ];
}
