import type { Effort } from '../../core/video/definition.ts';
import { engineFormat } from '../filters/store.ts';
import { STATISTICS, type Encoder, type PictureRun } from './encoder.ts';

/** How far the encoder cuts its search short, from 0 to 5. */
const SHORTCUTS: Readonly<Record<Effort, number>> = { fast: 5, balanced: 3, thorough: 1 };

/** VP9 by libvpx. */
export const vpx: Encoder = {
  program: 'libvpx-vp9',
  tags: {},
  transparentDecoder: 'libvpx-vp9',
  arguments: ({ effort, keyframeInterval, fine }, format, run) => [
    ...[
      '-c:v',
      'libvpx-vp9',
      '-pix_fmt',
      engineFormat(format),
      '-deadline',
      'good',
      '-cpu-used',
      String(SHORTCUTS[effort]),
    ],
    ...['-row-mt', '1', '-g', String(keyframeInterval)],
    // Groups of pictures can stand for each other only where they begin at the same frames.
    ...(run.fill ? ['-keyint_min', String(keyframeInterval)] : []),
    ...(fine.tune ? ['-tune-content', fine.tune] : []),
    ...target(run),
    ...passes(run),
  ],
  // In one pass calm pictures came to half of what they come to in two (measured).
  gaugeArguments: (quality, keyframeInterval, pass) => [
    ...['-c:v', 'libvpx-vp9', '-deadline', 'good', '-cpu-used', '5', '-row-mt', '1'],
    ...['-crf', String(quality), '-b:v', '0', '-g', String(keyframeInterval)],
    ...passes({ pass }),
  ],
};

/** Without a rate of nothing beside it the quality would only be a limit. */
function target({ target: asked }: PictureRun): string[] {
  return asked.kind === 'quality' ? ['-crf', String(asked.value), '-b:v', '0'] : ['-b:v', String(asked.rate)];
}

function passes({ pass }: Pick<PictureRun, 'pass'>): string[] {
  return pass === 'only' ? [] : ['-pass', pass === 'first' ? '1' : '2', '-passlogfile', STATISTICS];
}
