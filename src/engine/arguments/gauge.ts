import type { PicturePath } from '../../core/plan/encodePlan.ts';
import { RATED } from '../../core/video/codecs.ts';
import { ENCODERS, MASTER_ENCODERS } from '../encoders/encoders.ts';
import type { GaugeRequest } from '../engine.ts';
import { encodeGraph } from '../filters/picture.ts';
import { inputPortion } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** Pixels of the frames that are encoded side by side, all encoders together: each holds some dozens of its frames. */
const PIXELS_AT_ONCE = 8 * 1920 * 1088;

/**
 * The same in turns of as many qualities as may be encoded side by side: seven H.264 encoders of 2160 lines of noise took 5.5 gigabytes
 * (measured on two cores; more of them hold more frames).
 */
export function inTurns({ out: { size } }: PicturePath, request: GaugeRequest): GaugeRequest[] {
  if ('master' in request) return [request];
  const { qualities } = request;
  const atOnce = Math.max(1, Math.floor(PIXELS_AT_ONCE / (size.width * size.height)));
  const turns = Math.ceil(qualities.length / atOnce);
  return Array.from({ length: turns }, (_, turn) => ({
    ...request,
    qualities: qualities.slice(turn * atOnce, (turn + 1) * atOnce),
  }));
}

/** File names in the working folder, one a way it is encoded: a line for every packet, with its size; the packets go nowhere. */
export function gaugeFiles(request: GaugeRequest): string[] {
  return ('master' in request ? [0] : request.qualities).map((_, index) => `gauge-${index}.txt`);
}

/** Arguments of the pass that comes before those of all qualities; null where the codec encodes a constant quality in one. */
export function gaugeFirstPass(path: PicturePath, request: GaugeRequest, source: string): string[] | null {
  if ('master' in request || !hasFirstPass(request)) return null;
  const { codec, qualities, keyframeInterval } = request;
  const encoder = ENCODERS[codec].gaugeArguments(qualities[0] ?? 0, keyframeInterval, 'first');
  const graph = `[0:${path.from.streamIndex}]${encodeGraph(path)}[picture]`;
  const output = ['-map', '[picture]', '-fps_mode', 'passthrough', ...encoder, '-f', 'null', '-'];
  return [...QUIET_WITH_PROGRESS, ...inputPortion(source, path.from), '-filter_complex', graph, ...output];
}

/** Arguments that encode one stretch at several qualities, quickly, or as a master. */
export function gaugeArguments(path: PicturePath, request: GaugeRequest, source: string): string[] {
  const encoders = encodersOf(path, request);
  const labels = encoders.map((_, index) => `[picture${index}]`);
  const graph = `[0:${path.from.streamIndex}]${encodeGraph(path)},split=${labels.length}${labels.join('')}`;
  const outputs = gaugeFiles(request).flatMap((file, index) => [
    ...['-map', labels[index] ?? '', '-fps_mode', 'passthrough'],
    ...(encoders[index] ?? []),
    ...['-f', 'framecrc', `file:${file}`],
  ]);
  return [...QUIET_WITH_PROGRESS, ...inputPortion(source, path.from), '-filter_complex', graph, ...outputs];
}

function encodersOf({ out }: PicturePath, request: GaugeRequest): string[][] {
  if ('master' in request) return [MASTER_ENCODERS[request.master.codec].arguments(request.master, out.format)];
  const { codec, qualities, keyframeInterval } = request;
  const pass = hasFirstPass(request) ? 'second' : 'only';
  return qualities.map((quality) => ENCODERS[codec].gaugeArguments(quality, keyframeInterval, pass));
}

function hasFirstPass({ codec }: Exclude<GaugeRequest, { readonly master: unknown }>): boolean {
  return RATED[codec].quality.passes === 2;
}
