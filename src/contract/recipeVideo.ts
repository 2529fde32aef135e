import { boolean, lazy, number, object, string, type Schema } from 'yup';
import { joinWords } from '../core/text.ts';
import { CHROMAS, partsOf, PICTURE_DEPTHS, type PictureDepth } from '../core/picture/store.ts';
import { USUAL_FLAVOUR } from '../core/recipe/changeRecipe.ts';
import { RATE_MODES, type KeyframeDistance } from '../core/recipe/recipe.ts';
import {
  flavourOf,
  isRated,
  isVideoCodec,
  KEYFRAME_SECONDS,
  MASTERS,
  PICTURE_KBPS_RANGE,
  RATED,
  RATED_CODECS,
  VIDEO_CODECS,
  type MasterCodec,
  type RatedCodec,
} from '../core/video/codecs.ts';
import { EFFORTS } from '../core/video/definition.ts';
import { MOST_B_FRAMES, PROFILES, TIERS, TUNES } from '../core/video/fine.ts';
import { fault, strictObject } from './strictObject.ts';

const kbps = number()
  .integer(fault('a whole number of kb/s'))
  .min(PICTURE_KBPS_RANGE[0], fault(`at least ${PICTURE_KBPS_RANGE[0]} kb/s`))
  .max(PICTURE_KBPS_RANGE[1], fault(`at most ${PICTURE_KBPS_RANGE[1]} kb/s`));

const mode = <Mode extends (typeof RATE_MODES)[number]>(name: Mode) => string<Mode>().oneOf([name]).required();

/** The limits of one codec, or, where it is none, of all of them. */
function qualityRange(codec: unknown): readonly [best: number, worst: number] {
  const codecs = typeof codec === 'string' && isRated(codec) ? [codec] : RATED_CODECS;
  const scales = codecs.map((one) => RATED[one].quality);
  return [Math.min(...scales.map(({ best }) => best)), Math.max(...scales.map(({ worst }) => worst))];
}

const asked = kbps.required(fault('a rate in kb/s'));
const passes = number<1 | 2>().required(fault('1 or 2 passes')).oneOf([1, 2], fault('1 or 2 passes'));
const highest = kbps.nullable().default(null);

/** In kilobits; null takes the usual for the rate. */
const bufferKbit = number()
  .integer(fault('a whole number of kbit'))
  .min(10, fault('at least 10 kbit'))
  .max(4_000_000, fault('at most 4,000,000 kbit'))
  .nullable()
  .default(null);

const averageSchema = strictObject({ mode: mode('average'), kbps: asked, passes }).required();

const variableSchema = strictObject({
  mode: mode('variable'),
  kbps: asked,
  maxKbps: kbps.required(fault('a highest rate in kb/s')),
  bufferKbit,
  passes,
}).required();

const constantSchema = strictObject({ mode: mode('constant'), kbps: asked, bufferKbit }).required();

const shareSchema = strictObject({
  mode: mode('share'),
  ofSource: number()
    .required(fault('a share of the source, such as 0.5'))
    .min(0.001, fault('at least 0.001 of the source'))
    .max(4, fault('at most 4 times the source')),
}).required();

const sizeSchema = strictObject({
  mode: mode('size'),
  bytes: number()
    .required(fault('a size in bytes'))
    .integer(fault('whole bytes'))
    .min(1, fault('at least 1 byte'))
    .max(Number.MAX_SAFE_INTEGER, fault('a size a file can have')),
}).required();

const qualitySchema = (codec: unknown) => {
  const [best, worst] = qualityRange(codec);
  return strictObject({
    mode: mode('quality'),
    value: number()
      .required(fault('a quality value'))
      .min(best, fault(`a quality from ${best} (best) to ${worst}`))
      .max(worst, fault(`a quality from ${best} (best) to ${worst}`)),
    maxKbps: highest,
    bufferKbit,
  }).required();
};

/** What has no mode is told the modes there are. */
const noMode = object({
  mode: string<never>()
    .required(fault(`a mode: ${RATE_MODES.join(', ')}`))
    .oneOf([] as never[], fault(`one of ${RATE_MODES.join(', ')}`)),
})
  .typeError(fault('an object with a mode'))
  // Nothing passes: whatever has a mode is judged by that mode's own schema.
  .required(fault('a rate')) as unknown as Schema<never>;

const rateSchema = (codec: unknown) =>
  lazy((rate: unknown) => {
    switch (typeof rate === 'object' && rate !== null ? (rate as { mode?: unknown }).mode : undefined) {
      case 'quality':
        return qualitySchema(codec);
      case 'average':
        return averageSchema;
      case 'variable':
        return variableSchema;
      case 'constant':
        return constantSchema;
      case 'size':
        return sizeSchema;
      case 'share':
        return shareSchema;
      default:
        return noMode;
    }
  });

/** A picture kept as it is needs no settings. */
const copiedVideoSchema = strictObject({ codec: string().oneOf(['copy']).required() });

const CODEC_NAMES = [...VIDEO_CODECS, 'copy'].join(', ');

/** One of a list, or null: what null leaves to the encoder. */
const choice = <Value extends string>(list: readonly Value[]) =>
  string<Value>()
    .oneOf(list, fault(`null or one of ${list.join(', ')}`))
    .nullable()
    .default(null);

const keyframesSchema = strictObject({
  seconds: number().min(0.04, fault('at least 0.04 s')).max(60, fault('at most 60 s')).optional(),
  frames: number()
    .integer(fault('a whole number of frames'))
    .min(1, fault('at least 1 frame'))
    .max(3600, fault('at most 3600 frames'))
    .optional(),
})
  .test(
    'one-distance',
    fault('either seconds or frames'),
    (value) => value === undefined || (value.seconds === undefined) !== (value.frames === undefined),
  )
  .default({ seconds: KEYFRAME_SECONDS }) as unknown as Schema<KeyframeDistance>;

const storedFields = {
  chroma: string()
    .oneOf(CHROMAS, fault(`one of ${CHROMAS.join(', ')}`))
    .default('4:2:0'),
  bitDepth: number<PictureDepth>()
    .oneOf(PICTURE_DEPTHS, fault(`${joinWords(PICTURE_DEPTHS.map(String), 'or')} bits`))
    .default(8),
  alpha: boolean().default(false),
};

const ratedSchema = (codec: RatedCodec) => {
  const levels = RATED[codec].levels.levels.map(({ name }) => name);
  return strictObject({
    codec: string<RatedCodec>().oneOf([codec]).required(),
    rate: rateSchema(codec),
    effort: string()
      .oneOf(EFFORTS, fault(`one of ${EFFORTS.join(', ')}`))
      .default('balanced'),
    hardware: boolean().default(false),
    ...storedFields,
    tune: choice(TUNES),
    profile: choice(PROFILES),
    level: choice(levels),
    tier: choice(TIERS),
    keyframes: keyframesSchema,
    reordering: boolean().default(true),
    bFrames: number()
      .integer(fault('a whole number of frames'))
      .min(1, fault('at least 1 frame, or no reordering'))
      .max(MOST_B_FRAMES, fault(`at most ${MOST_B_FRAMES} frames`))
      .nullable()
      .default(null),
    closedGroups: boolean().nullable().default(null),
    keyframesAtScenes: boolean().default(true),
    keyframesAtPortions: boolean().default(false),
  }).required();
};

const masterSchema = (codec: MasterCodec, asked: unknown) => {
  const { flavours } = MASTERS[codec];
  const keys = flavours.map(({ key }) => key);
  const flavour = flavours.find(({ key }) => key === asked) ?? flavourOf(codec, USUAL_FLAVOUR) ?? flavours[0];
  const { chroma, depth } = partsOf(flavour?.formats[0] ?? '420p8');
  return strictObject({
    codec: string<MasterCodec>().oneOf([codec]).required(),
    flavour: string()
      .oneOf(keys, fault(`one of ${keys.join(', ')}`))
      .default(flavour?.key ?? ''),
    chroma: storedFields.chroma.default(chroma),
    bitDepth: storedFields.bitDepth.default(depth),
    alpha: storedFields.alpha,
  }).required();
};

/** What names no codec is told the codecs there are. */
const noCodec = object({
  codec: string<never>()
    .required(fault(`one of ${CODEC_NAMES}`))
    .oneOf([] as never[], fault(`one of ${CODEC_NAMES}`)),
})
  .typeError(fault('settings for the picture, or null for a sound-only file'))
  .nullable()
  .defined(fault('settings for the picture, or null for a sound-only file')) as unknown as Schema<null>;

/** The picture of a recipe; what is asked of it depends on its codec. */
export const videoSchema = lazy((value: unknown) => {
  const { codec, flavour } = (typeof value === 'object' ? (value ?? {}) : {}) as { codec?: unknown; flavour?: unknown };
  if (codec === 'copy') return copiedVideoSchema;
  if (typeof codec !== 'string' || !isVideoCodec(codec)) return noCodec;
  return isRated(codec) ? ratedSchema(codec) : masterSchema(codec, flavour);
});
