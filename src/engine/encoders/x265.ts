import type { FineSettings } from '../../core/video/fine.ts';
import { engineFormat } from '../filters/store.ts';
import { lightArguments } from './light.ts';
import { STATISTICS, type Encoder, type FillSettings, type PictureRun } from './encoder.ts';
import { PRESETS, targetArguments } from './x264.ts';

/** Without it the encoder writes two kilobytes about its own settings into every file. */
const SILENT = 'info=0';

/** In steps of 0.00002 and 0.0001 cd/m² (ITU-T H.265, D.3.28). */
const X265_LIGHT = {
  display: 'master-display',
  content: 'max-cll',
  place: (value: number) => String(Math.round(value * 50_000)),
  brightness: (value: number) => String(Math.round(value * 10_000)),
} as const;

/** HEVC by x265. */
export const x265: Encoder = {
  program: 'libx265',
  // With parameter sets beside the frames, as players of one family want it.
  tags: { mp4: 'hvc1', mov: 'hvc1' },
  arguments: ({ effort, keyframeInterval, keyframesAt, fine, light }, format, run) => {
    const settings = [
      SILENT,
      ...passes(run),
      ...(run.fill ? fill(run.fill) : []),
      ...steady(run),
      ...asked(fine, run),
      ...(light ? lightArguments(light, X265_LIGHT) : []),
    ];
    return [
      ...['-c:v', 'libx265', '-preset', PRESETS[effort], '-pix_fmt', engineFormat(format)],
      ...[
        '-g',
        String(keyframeInterval),
        ...(fine.tune ? ['-tune', fine.tune === 'drawn' ? 'animation' : fine.tune] : []),
      ],
      // Otherwise one that comes soon after another is just a frame without references.
      ...(keyframesAt ? ['-forced-idr', '1'] : []),
      ...targetArguments(run),
      ...['-x265-params', settings.join(':')],
    ];
  },
  gaugeArguments: (quality, keyframeInterval) => [
    ...['-c:v', 'libx265', '-x265-params', SILENT, '-preset', 'veryfast'],
    ...['-crf', String(quality), '-g', String(keyframeInterval)],
  ],
};

function passes({ pass }: PictureRun): string[] {
  return pass === 'only' ? [] : [`pass=${pass === 'first' ? 1 : 2}`, `stats=${STATISTICS}`];
}

/** Without tolerance in either direction. */
function steady({ target }: PictureRun): string[] {
  return target.kind === 'constant' ? ['strict-cbr=1'] : [];
}

/** What an expert asked for; groups that are joined are closed, and marked alike, whatever was asked. */
function asked(
  { level, tier, bFrames, closedGroups, keyframesAtScenes }: FineSettings,
  { fill }: PictureRun,
): string[] {
  return [
    ...(level && !fill ? [`level-idc=${level}`] : []),
    ...(tier && !fill ? [`high-tier=${tier === 'high' ? 1 : 0}`] : []),
    ...(bFrames === null ? [] : [`bframes=${bFrames}`]),
    ...(closedGroups === null || fill ? [] : [`open-gop=${closedGroups ? 0 : 1}`]),
    // Groups can stand for each other only where they begin at the same frames.
    ...(keyframesAtScenes && !fill ? [] : ['scenecut=0']),
  ];
}

/** Closed groups of pictures can be joined with those of another pass; they cost 0.2 % (measured). */
function fill({ level }: FillSettings): string[] {
  return ['open-gop=0', `level-idc=${level}`, 'high-tier=0'];
}
