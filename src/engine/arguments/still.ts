import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { PictureStep } from '../../core/picture/chain.ts';
import type { Sampling } from '../../core/picture/scale.ts';
import type { Opening } from '../../core/programme/opening.ts';
import { renderChain, skipFilters } from '../filters/picture.ts';
import { renderScale } from '../filters/scale.ts';
import { inputFrom } from './input.ts';
import { QUIETLY } from './progress.ts';

/** Everything needed to take one exact frame out of a file. */
export interface StillRequest {
  readonly path: string;
  readonly streamIndex: number;
  /** From 0. */
  readonly frame: number;
  /** Where to open the file, and how many frames come before the wanted one from there. */
  readonly opening: Opening & { readonly framesBefore: number };
  /** Where what is drawn in on the way lies. */
  readonly workingFolder?: string;
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

/** A frame at a stated size. */
export type SizedStillRequest = StillRequest & { readonly size: FrameSize };

/**
 * Arguments that write frames of one size as bare RGB bytes, three a pixel, one after another to standard output. They
 * may be of several files: starting the engine takes longer than a small frame.
 */
export function rawFramesArguments(requests: readonly SizedStillRequest[]): string[] {
  const branches = requests.map((request, index) => {
    const filters = [...frameFilters(request), 'trim=end_frame=1', 'setsar=1'];
    return `[${index}:${request.streamIndex}]${filters.join(',')}[frame${index}]`;
  });
  const frames = requests.map((_, index) => `[frame${index}]`).join('');
  return [
    ...QUIETLY,
    ...requests.flatMap(({ path, opening }) => inputFrom(path, opening.atSeconds)),
    ...['-filter_complex', [...branches, `${frames}concat=n=${requests.length}`].join(';')],
    ...['-fps_mode', 'passthrough', '-f', 'rawvideo', 'pipe:1'],
  ];
}

function frameArguments(request: StillRequest): string[] {
  return [
    ...QUIETLY,
    ...inputFrom(request.path, request.opening.atSeconds),
    ...['-map', `0:${request.streamIndex}`, '-an', '-sn', '-dn', '-frames:v', '1', '-fps_mode', 'passthrough'],
    ...['-vf', frameFilters(request).join(',')],
  ];
}

function frameFilters({ sampling, size, opening, chain }: StillRequest): string[] {
  return [
    ...skipFilters(opening),
    ...renderChain(chain),
    ...(opening.framesBefore > 0 ? [`select=eq(n\\,${opening.framesBefore})`] : []),
    renderScale({ size, from: sampling, to: 'rgb' }),
    'format=rgb24',
  ];
}
