import type { Preparation } from '../../core/geometry/preparation.ts';
import type { FrameSize } from '../../core/geometry/frameSize.ts';
import type { Advisory } from '../../core/advice/advisory.ts';
import type { PassName, PictureSource, PlannedBudget } from '../../core/plan/encodePlan.ts';
import { prepare } from '../../core/plan/planPicture.ts';
import type { Colour } from '../../core/programme/colour.ts';
import type { SoundCodec } from '../../core/sound/codecs.ts';
import type { Rational } from '../../core/timing/rational.ts';
import type { BitsPerSecond } from '../../core/units.ts';
import type { RatedCodec } from '../../core/video/codecs.ts';
import type { Effort } from '../../core/video/definition.ts';
import type { PictureVersion2, PlanVersion2, RateVersion2, SoundVersion2 } from './planVersion2.ts';

/** A plan as version 0.2 stored it: one picture, one sound, always in MP4, and no version of its own. */
export interface PlanVersion1 {
  readonly picture: {
    readonly streamIndex: number;
    readonly bitDepth: number;
    readonly size: FrameSize;
    readonly sourceSize: FrameSize;
    readonly preparation: Preparation;
    readonly colour: Colour;
    readonly sourceRange: 'limited' | 'full';
    readonly frameRate: Rational;
    readonly frameCount: number;
    readonly inFrame: number;
    readonly constantRate: boolean;
    readonly lastFrame: { readonly atSeconds: number; readonly endSeconds: number };
    readonly opening: PictureSource['opening'];
  } | null;
  readonly video: {
    readonly codec: RatedCodec;
    readonly effort: Effort;
    readonly keyframeInterval: number;
    readonly rate: RateVersion2 | { readonly kind: 'copied' };
  } | null;
  readonly sound: {
    readonly streamIndex: number;
    readonly codec: SoundCodec;
    readonly rate: BitsPerSecond;
    readonly channels: 'mono' | 'stereo' | null;
    readonly sampleRate: number;
    readonly startSeconds: number;
    readonly samples: number;
  } | null;
  readonly durationSeconds: number;
  readonly passes: readonly PassName[];
  readonly budget: PlannedBudget;
  readonly advisories: readonly Omit<Advisory, 'remedy'>[];
}

/** The same plan as a list of streams. */
export function upgradePlan1({
  picture,
  video,
  sound,
  durationSeconds,
  advisories,
  ...rest
}: PlanVersion1): PlanVersion2 {
  const pictures = picture && video ? [upgradePicture(picture, video)] : [];
  const isCopy = video?.rate.kind === 'copied';
  return {
    version: 2,
    span: {
      inFrame: picture?.inFrame ?? 0,
      frameCount: picture?.frameCount ?? 0,
      startSeconds: sound?.startSeconds ?? 0,
      seconds: durationSeconds,
    },
    streams: [...pictures, ...(sound ? [upgradeSound(sound, isCopy)] : [])],
    container: 'mp4',
    advisories: advisories.map((one) => ({ ...one, remedy: '' })),
    ...rest,
  };
}

function upgradePicture(
  picture: NonNullable<PlanVersion1['picture']>,
  video: NonNullable<PlanVersion1['video']>,
): PictureVersion2 {
  const { colour, size, frameRate, constantRate, frameCount } = picture;
  const sampling = { matrix: colour.matrix, range: picture.sourceRange };
  const { codec, rate, ...settings } = video;
  return {
    kind: 'picture',
    from: {
      streamIndex: picture.streamIndex,
      inFrame: picture.inFrame,
      frameCount,
      frameRate,
      constantRate,
      sampling,
      bitDepth: picture.bitDepth,
      opening: picture.opening,
    },
    do:
      rate.kind === 'copied'
        ? { kind: 'copy', codec }
        : { kind: 'encode', codec, ...settings, rate: rate.kind === 'fill' ? { ...rate, quality: null } : rate },
    chain:
      rate.kind === 'copied'
        ? []
        : [
            ...prepare(picture.preparation, false),
            { step: 'scale', size, from: sampling, to: { matrix: colour.matrix, range: 'limited' } },
            { step: 'store', format: '420p8' },
            { step: 'tag', colour },
            { step: 'stamp', rate: constantRate ? frameRate : null },
          ],
    comparedAt: picture.sourceSize,
    out: {
      size,
      frameCount,
      frameRate,
      constantRate,
      lastFrame: picture.lastFrame,
      colour,
      range: 'limited',
      format: '420p8',
    },
  };
}

function upgradeSound(sound: NonNullable<PlanVersion1['sound']>, isCopy: boolean): SoundVersion2 {
  const { codec, rate, channels, sampleRate, samples, startSeconds } = sound;
  return {
    kind: 'sound',
    from: { streamIndex: sound.streamIndex },
    do: isCopy ? { kind: 'copy', codec } : { kind: 'encode', codec, rate },
    chain:
      isCopy || channels === null
        ? []
        : [
            { step: 'begin', startSeconds },
            { step: 'resample', sampleRate },
            { step: 'last', samples },
            { step: 'mix', channels },
          ],
    out: { sampleRate, samples, channels },
  };
}
