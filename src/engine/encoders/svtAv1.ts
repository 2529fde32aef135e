import type { LightLevels } from '../../core/programme/facts.ts';
import type { Effort } from '../../core/video/definition.ts';
import { engineFormat } from '../filters/store.ts';
import type { Encoder } from './encoder.ts';
import { lightArguments } from './light.ts';

const PRESETS: Readonly<Record<Effort, number>> = { fast: 10, balanced: 8, thorough: 5 };

/** As they are (its own notes on high dynamic range, from memory). */
const SVT_LIGHT = {
  display: 'mastering-display',
  content: 'content-light',
  place: String,
  brightness: String,
} as const;

/** AV1 by SVT-AV1. Its keyframes lie at a fixed distance, closed, wherever scenes change: groups can be joined as they are. */
export const svtAv1: Encoder = {
  program: 'libsvtav1',
  tags: {},
  arguments: ({ effort, keyframeInterval, light }, format, { target }) => [
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
    ...told(light),
  ],
  gaugeArguments: (quality, keyframeInterval) => [
    ...['-c:v', 'libsvtav1', '-preset', '12', '-crf', String(quality), '-g', String(keyframeInterval)],
  ],
};

function told(light: LightLevels | undefined): string[] {
  const settings = light ? lightArguments(light, SVT_LIGHT) : [];
  return settings.length > 0 ? ['-svtav1-params', settings.join(':')] : [];
}
