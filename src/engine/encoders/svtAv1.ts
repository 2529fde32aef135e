import type { Effort } from '../../core/video/definition.ts';
import { engineFormat } from '../filters/store.ts';
import type { Encoder } from './encoder.ts';

const PRESETS: Readonly<Record<Effort, number>> = { fast: 10, balanced: 8, thorough: 5 };

/** AV1 by SVT-AV1. Its keyframes lie at a fixed distance, closed, wherever scenes change: groups can be joined as they are. */
export const svtAv1: Encoder = {
  program: 'libsvtav1',
  tags: {},
  arguments: ({ effort, keyframeInterval }, format, { target }) => [
    ...[
      '-c:v',
      'libsvtav1',
      '-preset',
      String(PRESETS[effort]),
      '-pix_fmt',
      engineFormat(format),
      '-g',
      String(keyframeInterval),
    ],
    ...(target.kind === 'quality' ? ['-crf', String(target.value)] : ['-b:v', String(target.rate)]),
  ],
  gaugeArguments: (quality, keyframeInterval) => [
    ...['-c:v', 'libsvtav1', '-preset', '12', '-crf', String(quality), '-g', String(keyframeInterval)],
  ],
};
