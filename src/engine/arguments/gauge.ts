import type { PicturePath } from '../../core/plan/encodePlan.ts';
import { ENCODERS } from '../encoders/encoders.ts';
import type { GaugeRequest } from '../engine.ts';
import { encodeGraph } from '../filters/picture.ts';
import { inputPortion } from './input.ts';
import { QUIET_WITH_PROGRESS } from './progress.ts';

/** File names in the working folder, one a quality: a line for every packet, with its size; the packets go nowhere. */
export function gaugeFiles(request: GaugeRequest): string[] {
  return request.qualities.map((_, index) => `gauge-${index}.txt`);
}

/** Arguments that encode one stretch at several qualities, quickly. */
export function gaugeArguments(path: PicturePath, request: GaugeRequest, source: string): string[] {
  const { codec, qualities, keyframeInterval } = request;
  const labels = qualities.map((_, index) => `[picture${index}]`);
  const graph = `[0:${path.from.streamIndex}]${encodeGraph(path)},split=${labels.length}${labels.join('')}`;
  const outputs = gaugeFiles(request).flatMap((file, index) => [
    ...['-map', labels[index] ?? '', '-fps_mode', 'passthrough'],
    ...ENCODERS[codec].gaugeArguments(qualities[index] ?? 0, keyframeInterval),
    ...['-f', 'framecrc', `file:${file}`],
  ]);
  return [...QUIET_WITH_PROGRESS, ...inputPortion(source, path.from), '-filter_complex', graph, ...outputs];
}
