import { partsOf, type PixelFormat } from '../../core/picture/store.ts';
import type { Effort } from '../../core/video/definition.ts';
import type { FineSettings, Tune } from '../../core/video/fine.ts';
import { engineFormat } from '../filters/store.ts';
import { STATISTICS, type Encoder, type PictureRun } from './encoder.ts';

/** Shared by both encoders of this family. */
export const PRESETS: Readonly<Record<Effort, string>> = { fast: 'veryfast', balanced: 'medium', thorough: 'slow' };

/** H.264 by x264. */
export const x264: Encoder = {
  program: 'libx264',
  tags: {},
  arguments: ({ effort, keyframeInterval, fine }, format, run) => [
    ...['-c:v', 'libx264', '-profile:v', fine.profile ?? profileOf(format), '-preset', PRESETS[effort]],
    ...['-pix_fmt', engineFormat(format), '-g', String(keyframeInterval)],
    ...(fine.tune ? ['-tune', X264_TUNES[fine.tune] ?? fine.tune] : []),
    ...targetArguments(run),
    ...passes(run),
    ...fineArguments(fine, run),
  ],
  gaugeArguments: (quality, keyframeInterval) => [
    ...['-c:v', 'libx264', '-preset', 'veryfast', '-crf', String(quality), '-g', String(keyframeInterval)],
  ],
};

function passes({ pass }: PictureRun): string[] {
  if (pass === 'only') return [];
  return ['-pass', pass === 'first' ? '1' : '2', ...['-passlogfile', STATISTICS]];
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

const X264_TUNES: Readonly<Partial<Record<Tune, string>>> = { drawn: 'animation', still: 'stillimage' };

/** The lowest profile of the usual ones that carries a format (Annex A of ITU-T H.264). */
function profileOf(format: PixelFormat): string {
  const { chroma, depth } = partsOf(format);
  if (chroma === '4:4:4') return 'high444';
  if (chroma === '4:2:2') return 'high422';
  return depth > 8 ? 'high10' : 'high';
}

function fineArguments({ level, bFrames, closedGroups, keyframesAtScenes }: FineSettings, run: PictureRun): string[] {
  const { fill, target } = run;
  const parameters = [
    ...(fill ? ['stitchable=1'] : []),
    // A steady rate is padded, as a channel of constant rate needs it.
    ...(target.kind === 'constant' ? ['nal-hrd=cbr'] : []),
    ...(closedGroups === false && !fill ? ['open-gop=1'] : []),
  ];
  const marked = fill?.level ?? level;
  return [
    ...(marked ? ['-level:v', marked] : []),
    ...(bFrames === null ? [] : ['-bf', String(bFrames)]),
    // Groups can stand for each other only where they begin at the same frames.
    ...(keyframesAtScenes && !fill ? [] : ['-sc_threshold', '0']),
    ...(parameters.length > 0 ? ['-x264-params', parameters.join(':')] : []),
  ];
}
