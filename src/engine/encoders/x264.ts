import { h264 } from '../../core/video/h264.ts';
import type { Effort } from '../../core/video/definition.ts';
import { STATISTICS, type Encoder, type FillSettings, type PictureRun } from './encoder.ts';

/** Shared by both encoders of this family. */
export const PRESETS: Readonly<Record<Effort, string>> = { fast: 'veryfast', balanced: 'medium', thorough: 'slow' };

/** H.264 by x264. */
export const x264: Encoder = {
  program: 'libx264',
  tags: {},
  arguments: ({ effort, keyframeInterval }, run) => [
    ...['-c:v', 'libx264', '-profile:v', 'high', '-preset', PRESETS[effort]],
    ...['-pix_fmt', 'yuv420p', '-g', String(keyframeInterval)],
    ...targetArguments(run),
    ...passes(run),
    ...parameters(run),
  ],
  gaugeArguments: (quality, keyframeInterval) => [
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', String(quality), '-g', String(keyframeInterval)],
  ],
};

function passes({ pass }: PictureRun): string[] {
  if (pass === 'only') return [];
  return [
    '-pass',
    pass === 'first' ? '1' : '2',
    // A first pass with shortcuts guesses bits the second does not spend: of 11 H.264 size targets 6 were met by the
    // first second pass with them, 9 without. The rate is held as loosely as the encoder does by itself: held
    // tighter, noise at the edge of being kept made it swing by up to 45 % (measured), which no correction follows.
    ...['-fastfirstpass', '0'],
    ...['-passlogfile', STATISTICS],
  ];
}

/** What the encoder is held to; shared by both of this family. A rate held steadily is its own highest. */
export function targetArguments({ target, buffer }: PictureRun): string[] {
  const held = buffer ? ['-maxrate', String(buffer.highest), '-bufsize', String(buffer.bits)] : [];
  switch (target.kind) {
    case 'quality':
      return ['-crf', String(target.value), ...held];
    case 'rate':
      return ['-b:v', String(target.rate), ...held];
    case 'constant':
      return ['-b:v', String(target.rate), '-minrate', String(target.rate), ...held];
  }
}

/** A steady rate is padded, as a channel of constant rate needs it. */
function parameters({ fill, target }: PictureRun): string[] {
  if (fill) return fillArguments(fill);
  return target.kind === 'constant' ? ['-x264-params', 'nal-hrd=cbr'] : [];
}

function fillArguments({ level }: FillSettings): string[] {
  return ['-qmin', String(h264.quality.finestSensible), '-level:v', level, '-x264-params', 'stitchable=1'];
}
