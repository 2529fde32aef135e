import type { EncodePicture } from '../../core/plan/encodePlan.ts';
import { RATED, RATED_CODECS, type RatedCodec } from '../../core/video/codecs.ts';
import type { PictureRun } from './encoder.ts';
import { ENCODERS } from './encoders.ts';

/** Ways to encoders in hardware that the engine may know; the first that works is taken. */
export const HARDWARE_KINDS = ['nvenc', 'qsv', 'vaapi', 'amf', 'videotoolbox', 'v4l2m2m'] as const;

/** The last stands in for a device where there is none: the codec's own encoder, in the least effort that it knows. */
export type HardwareKind = (typeof HARDWARE_KINDS)[number] | 'simulated';

/** Codecs whose own encoder can stand in for a device: it holds a rate as closely. */
export const SIMULATED_CODECS: readonly RatedCodec[] = RATED_CODECS.filter((codec) => RATED[codec].bufferFault === '');

/** Where a machine's graphics are found; encoders of this kind take no other frames than those that lie there. */
const DEVICE = '/dev/dri/renderD128';

/** Before the input: the device that frames are brought to. */
export function hardwareDevice(kind: HardwareKind): string[] {
  return kind === 'vaapi' ? ['-vaapi_device', DEVICE] : [];
}

/** After all other filters: frames as these encoders take them, where they take them. */
export function hardwarePath(kind: HardwareKind): string {
  return kind === 'vaapi' ? 'format=nv12,hwupload' : 'format=nv12';
}

/** Arguments of one run, after the frames and before the file: an average rate, and everything else as the encoder has it. */
export function hardwareArguments(
  kind: HardwareKind,
  { codec, keyframeInterval }: Pick<EncodePicture, 'codec' | 'keyframeInterval'>,
  { target }: Pick<PictureRun, 'target'>,
): string[] {
  if (target.kind !== 'rate') throw new Error('Encoders in hardware are asked for an average rate alone.');
  const program = kind === 'simulated' ? [ENCODERS[codec].program, '-preset', 'ultrafast'] : [`${codec}_${kind}`];
  return ['-c:v', ...program, '-b:v', String(target.rate), '-g', String(keyframeInterval)];
}
