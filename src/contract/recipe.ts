import { array, boolean, lazy, mixed, number, object, string, type InferType, type Schema } from 'yup';
import { CONTAINERS } from '../core/container/names.ts';
import { FIELD_ORDERS } from '../core/geometry/preparation.ts';
import { CHROMAS, partsOf, PICTURE_DEPTHS, type PictureDepth } from '../core/picture/store.ts';
import { USUAL_FLAVOUR } from '../core/recipe/changeRecipe.ts';
import { FRAME_RATE_RANGE, type FrameRateChoice } from '../core/recipe/frameRate.ts';
import { RATE_MODES, type KeyframeDistance } from '../core/recipe/recipe.ts';
import { SOUND, SOUND_CODECS } from '../core/sound/codecs.ts';
import {
  CHANNEL_CHOICES,
  kbpsRange,
  LAYOUT_CHANNELS,
  SAMPLE_RATES,
  SOUND_DEPTHS,
  type Layout,
  type SoundDepth,
} from '../core/sound/definition.ts';
import { LUFS_RANGE, TRUE_PEAK_RANGE, USUAL_TRUE_PEAK } from '../core/sound/loudness.ts';
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
import { fraction } from './fraction.ts';
import { frameSide, LARGEST_SIDE } from './frameSide.ts';
import { portionName, spanFields } from './span.ts';
import { fault, strictObject } from './strictObject.ts';

const fitSchema = strictObject({
  width: frameSide.optional(),
  height: frameSide.optional(),
  enlarge: boolean().optional(),
  orSmaller: boolean().optional(),
})
  .nullable()
  .test(
    'some-side',
    fault('a width, a height or both, or null for the source’s own size'),
    (fit) => fit == null || fit.width !== undefined || fit.height !== undefined,
  );

const edge = (side: string) =>
  number()
    .integer(fault(`a whole number of pixels at the ${side}`))
    .min(0, fault('0 pixels or more'))
    .max(LARGEST_SIDE, fault(`at most ${LARGEST_SIDE} pixels`))
    .test('even', fault('an even number of pixels: colour is stored for two by two'), (value) => (value ?? 0) % 2 === 0)
    .default(0);

/** Shared with what a sounding is asked for. */
export const cropSchema = strictObject({
  top: edge('top'),
  bottom: edge('bottom'),
  left: edge('left'),
  right: edge('right'),
}).nullable();

export const deinterlaceSchema = string()
  .oneOf(FIELD_ORDERS, fault(`null or one of ${FIELD_ORDERS.join(', ')}`))
  .nullable();

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
const copySchema = strictObject({ codec: string().oneOf(['copy']).required() });

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
  bitDepth: number<PictureDepth>().oneOf(PICTURE_DEPTHS, fault('8 or 10 bits')).default(8),
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

const videoSchema = lazy((value: unknown) => {
  const { codec, flavour } = (typeof value === 'object' ? (value ?? {}) : {}) as { codec?: unknown; flavour?: unknown };
  if (codec === 'copy') return copySchema;
  if (typeof codec !== 'string' || !isVideoCodec(codec)) return noCodec;
  return isRated(codec) ? ratedSchema(codec) : masterSchema(codec, flavour);
});

const LAYOUTS = Object.keys(LAYOUT_CHANNELS) as readonly Layout[];

const soundLimits = SOUND_CODECS.flatMap((codec) => {
  const { rate } = SOUND[codec];
  return rate.kind === 'asked' ? LAYOUTS.flatMap((one) => kbpsRange(rate, one)) : [];
});
const LEAST_SOUND_KBPS = Math.min(...soundLimits);
const MOST_SOUND_KBPS = Math.max(...soundLimits);

const soundKbps = number()
  .integer(fault('a whole number of kb/s'))
  .min(LEAST_SOUND_KBPS, fault(`at least ${LEAST_SOUND_KBPS} kb/s`))
  .max(MOST_SOUND_KBPS, fault(`at most ${MOST_SOUND_KBPS} kb/s`));

const soundDepth = number<SoundDepth>().oneOf(SOUND_DEPTHS, fault('16 or 24 bits'));

/** How loud sound is to be. */
const loudnessSchema = strictObject({
  lufs: number()
    .required(fault('a loudness in LUFS'))
    .min(LUFS_RANGE[0], fault(`at least ${LUFS_RANGE[0]} LUFS`))
    .max(LUFS_RANGE[1], fault(`at most ${LUFS_RANGE[1]} LUFS`)),
  truePeakDbtp: number()
    .min(TRUE_PEAK_RANGE[0], fault(`at least ${TRUE_PEAK_RANGE[0]} dBTP`))
    .max(TRUE_PEAK_RANGE[1], fault(`at most ${TRUE_PEAK_RANGE[1]} dBTP`))
    .default(USUAL_TRUE_PEAK),
})
  .nullable()
  .default(null);

/** What has no place with a codec is left out, or null. */
const nothing = <Value>(why: string) =>
  mixed<Value & never>()
    .nullable()
    .test('nothing', fault(why), (value) => value == null)
    .default(null);

/** Far more than any container of programmes has. */
const MOST_TRACKS = 32;

/** Which of the master's tracks, counted from 0. */
const trackList = array(number().required().integer(fault('a whole number')).min(0, fault('0 for the first')))
  .min(1, fault('at least one track, such as [0]'))
  .max(MOST_TRACKS, fault(`at most ${MOST_TRACKS} tracks`))
  .test('once', fault('each track once'), (tracks) => new Set(tracks).size === (tracks?.length ?? 0))
  .default([0]) as unknown as Schema<readonly number[]>;

const copiedAudioSchema = strictObject({ codec: string().oneOf(['copy']).required(), tracks: trackList }).required();

const encodedAudioSchema = (stored: unknown) => {
  const codec = SOUND_CODECS.find((one) => one === stored);
  const isWhole = codec !== undefined && SOUND[codec].rate.kind === 'whole';
  return strictObject({
    codec: string()
      .required(fault(`one of ${SOUND_CODECS.join(', ')}, copy`))
      .oneOf(SOUND_CODECS, fault(`one of ${SOUND_CODECS.join(', ')}, copy`)),
    kbps: (isWhole ? nothing('no rate: this codec keeps every sample') : soundKbps.default(128)) as unknown as Schema<
      number | null
    >,
    channels: string()
      .oneOf(CHANNEL_CHOICES, fault(`one of ${CHANNEL_CHOICES.join(', ')}`))
      .default('stereo'),
    sampleRate: number()
      .oneOf(SAMPLE_RATES, fault(`one of ${SAMPLE_RATES.join(', ')} Hz`))
      .default(48000),
    loudness: loudnessSchema,
    tracks: trackList,
    mixed: boolean().default(false),
    bitDepth: (isWhole
      ? soundDepth.default(16)
      : nothing('no depth: this codec has a rate')) as unknown as Schema<SoundDepth | null>,
  })
    .nullable()
    .defined(fault('settings for the sound, or null for none'));
};

const audioSchema = lazy((value: { codec?: unknown } | null) =>
  value?.codec === 'copy' ? copiedAudioSchema : encodedAudioSchema(value?.codec),
);

const [LEAST_FPS, MOST_FPS] = FRAME_RATE_RANGE;

/** Frames a second that an encoder is asked for. */
const frameRate = fraction.test('in-range', fault(`from ${LEAST_FPS} to ${MOST_FPS} frames a second`), (rate) => {
  const value = rate.num / rate.den;
  return value >= LEAST_FPS && value <= MOST_FPS;
});

const frameRateSchema = lazy((value: unknown) => {
  if (typeof value !== 'object' || value === null) {
    const words = ['source', 'half'] as const;
    return string()
      .oneOf(words, fault('“source”, “half”, {"num", "den"} or {"atMost": {"num", "den"}}'))
      .default('source');
  }
  return 'atMost' in value ? strictObject({ atMost: frameRate.required() }).required() : frameRate.required();
}) as unknown as Schema<FrameRateChoice>;

/** The recipe as it travels and is saved, `linstock.recipe/1`; unknown keys are refused by name. */
export const recipeSchema = strictObject({
  format: string().oneOf(['linstock.recipe/1'], fault('the format “linstock.recipe/1”')).default('linstock.recipe/1'),
  name: string().max(200, fault('at most 200 characters')).default('Untitled'),
  container: string()
    .oneOf(CONTAINERS, fault(`one of ${CONTAINERS.join(', ')}`))
    .default(CONTAINERS[0]),
  video: videoSchema,
  picture: strictObject({
    deinterlace: deinterlaceSchema.default(null),
    crop: cropSchema.default(null),
    fit: fitSchema.default(null),
  }).default({ deinterlace: null, crop: null, fit: null }),
  time: strictObject({ frameRate: frameRateSchema }).default({ frameRate: 'source' }),
  audio: audioSchema,
}).required(fault('a recipe'));

/** For which receiver something is ordered: the file is checked against what it asks for. */
function briefId() {
  return string().max(64, fault('the id of a brief')).nullable().default(null);
}

/** What a rendition is ordered with. */
export const renditionRequestSchema = strictObject({
  programmeId: string().required(fault('the id of a programme')).max(64, fault('the id of a programme')),
  recipe: recipeSchema,
  portion: strictObject({ ...spanFields, name: portionName.optional() })
    .nullable()
    .default(null),
  /** File name of the result, or null to have one made. */
  name: string().nullable().default(null),
  /** Keep the file even when a check fails. */
  keepFailed: boolean().default(false),
  briefId: briefId(),
}).required(fault('an order'));

type ParsedRequest = InferType<typeof renditionRequestSchema>;

/** A parsed order with every default filled in; what the server orders by itself need name no receiver. */
export type RenditionRequest = Omit<ParsedRequest, 'briefId'> & Partial<Pick<ParsedRequest, 'briefId'>>;

/** The order line of a programme as it is left. */
export const workingOrderSchema = strictObject({ recipe: recipeSchema, briefId: briefId() }).required(
  fault('an order line'),
);

export type WorkingOrderRequest = InferType<typeof workingOrderSchema>;
