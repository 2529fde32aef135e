import type { PicturePlan } from '../../core/rate/encodePlan.ts';
import type { GaugeRequest } from '../engine.ts';
import { QUIET_WITH_PROGRESS } from './encode.ts';
import { encodeFilter, inputPortion } from './picture.ts';

/** File names in the working folder, one a quality: a line for every packet, with its size; the packets go nowhere. */
export function gaugeFiles(request: GaugeRequest): string[] {
  return request.qualities.map((_, index) => `gauge-${index}.txt`);
}

/** Arguments that encode one stretch at several qualities, quickly. */
export function gaugeArguments(picture: PicturePlan, request: GaugeRequest, source: string): string[] {
  const labels = request.qualities.map((_, index) => `[picture${index}]`);
  const graph = `[0:${picture.streamIndex}]${encodeFilter(picture)},split=${labels.length}${labels.join('')}`;
  const encoder = request.codec === 'h264' ? ['-c:v', 'libx264'] : ['-c:v', 'libx265', '-x265-params', 'info=0'];
  const outputs = gaugeFiles(request).flatMap((file, index) => [
    ...['-map', labels[index] ?? '', '-fps_mode', 'passthrough', ...encoder, '-preset', 'veryfast'],
    ...['-crf', String(request.qualities[index]), '-g', String(request.keyframeInterval)],
    ...['-f', 'framecrc', `file:${file}`],
  ]);
  return [...QUIET_WITH_PROGRESS, ...inputPortion(source, picture), '-filter_complex', graph, ...outputs];
}
