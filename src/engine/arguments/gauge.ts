import type { PicturePath } from '../../core/plan/encodePlan.ts';
import { ENCODERS, MASTER_ENCODERS } from '../encoders/encoders.ts';
import type { GaugeRequest } from '../engine.ts';
import { encodeGraph } from '../filters/picture.ts';
import { inputPortion } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** File names in the working folder, one a way it is encoded: a line for every packet, with its size; the packets go nowhere. */
export function gaugeFiles(request: GaugeRequest): string[] {
  return ('master' in request ? [0] : request.qualities).map((_, index) => `gauge-${index}.txt`);
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
  return qualities.map((quality) => ENCODERS[codec].gaugeArguments(quality, keyframeInterval));
}
