import { boolean, number, string, type InferType, type Schema, type TestContext } from 'yup';
import type { FrameSize } from '../core/geometry/frameSize.ts';
import { isFarBeyond, leftOf, turnedAspect } from '../core/geometry/framing.ts';
import type { Portion, ProgrammeFacts, VideoFacts } from '../core/programme/facts.ts';
import { resultRate } from '../core/recipe/frameRate.ts';
import { pixelFormat, type PixelFormat } from '../core/picture/store.ts';
import {
  encodedVideo,
  formatOf,
  isRatedVideo,
  preparationOf,
  renditionSize,
  type Recipe,
} from '../core/recipe/recipe.ts';
import type { Rational } from '../core/timing/rational.ts';
import { flavourOf, isRated, RATED, VIDEO_CODECS, type VideoCodec } from '../core/video/codecs.ts';
import { preparationFields } from './recipePicture.ts';
import { fraction } from './fraction.ts';
import { frameSide } from './frameSide.ts';
import { spanFields } from './span.ts';
import { fault, strictObject } from './strictObject.ts';

const side = frameSide.required(fault('a number of pixels'));

/** What a picture with transparency is sounded as. */
export const TRANSPARENT = pixelFormat('4:2:0', 8, true);

const ONE_OF_CODECS = fault(`one of ${VIDEO_CODECS.join(', ')}`);

/** How a codec for masters is to store pixels. */
const storedSchema = strictObject({
  flavour: string().required(fault('a flavour of the codec')),
  format: string<PixelFormat>().required(fault('a pixel format')),
})
  .nullable()
  .default(null)
  .test(
    'stored',
    fault('a flavour of the codec with pixels it takes, for a codec for masters; nothing otherwise'),
    (stored, { parent }) => {
      const { codec } = parent as { readonly codec: VideoCodec };
      if (!VIDEO_CODECS.includes(codec)) return true;
      if (isRated(codec)) return !stored;
      return stored ? (flavourOf(codec, stored.flavour)?.formats.includes(stored.format) ?? false) : false;
    },
  );

function carriesAlpha(alpha: boolean, { parent }: TestContext): boolean {
  const { codec } = parent as { readonly codec: VideoCodec };
  if (!alpha || !VIDEO_CODECS.includes(codec)) return true;
  return isRated(codec) && RATED[codec].formats.includes(TRANSPARENT);
}

/** What a sounding is asked for. */
export const soundingRequestSchema = strictObject({
  codec: string().required(ONE_OF_CODECS).oneOf(VIDEO_CODECS, ONE_OF_CODECS),
  stored: storedSchema,
  /** With the second picture that carries its transparency, of a codec that encodes at a rate. */
  alpha: boolean()
    .default(false)
    .test('alpha', fault('false, or true for a codec at a rate that carries transparency'), carriesAlpha),
  width: side,
  height: side,
  ...preparationFields,
  /** Frames a second of the result; null takes them as they are. */
  frameRate: fraction.nullable().default(null) as unknown as Schema<Rational | null>,
  /** null takes the whole programme. */
  portion: strictObject(spanFields).nullable().default(null),
  /** The quality that is measured first; null takes the codec's usual one. Whatever it is, all are measured. */
  around: number()
    .min(0, fault('a quality of the codec'))
    .max(255, fault('a quality of the codec'))
    .nullable()
    .default(null),
}).required(fault('what is to be sounded'));

export type SoundingRequest = InferType<typeof soundingRequestSchema>;

/**
 * What has to be sounded so that an order's size can be foreseen.
 *
 * @returns null where nothing is encoded: sound only, a copy.
 */
export function soundingOf(facts: ProgrammeFacts, recipe: Recipe, portion: Portion | null): SoundingRequest | null {
  const video = encodedVideo(recipe);
  const size = video && renditionSize(facts, recipe);
  if (!video || !size || !facts.video) return null;
  const isOfRate = isRatedVideo(video);
  const alpha = isOfRate && video.alpha;
  const stored = isOfRate ? null : { flavour: video.flavour, format: formatOf(video) };
  const prepared = preparationOf(facts, facts.video, recipe.picture);
  const { crop, deinterlace, rotate, flip, pad, denoise, adjust, dynamicRange } = prepared;
  const treatment = { crop, deinterlace, rotate, flip, pad, denoise, adjust, dynamicRange };
  const span = portion && { inFrame: portion.inFrame, outFrame: portion.outFrame };
  const frameRate = resultRate(facts, recipe);
  const around = isOfRate && video.rate.mode === 'quality' ? video.rate.value : null;
  return { codec: video.codec, stored, alpha, ...size, ...treatment, frameRate, portion: span, around };
}

/** Whether a frame size is so far beyond a programme's picture that it is not measured, or nothing is left of the picture. */
export function isNotSounded(facts: FrameSize, { pixelAspect }: VideoFacts, request: SoundingRequest): boolean {
  const left = leftOf(facts, request);
  return Math.min(left.width, left.height) < 2 || isFarBeyond(request, left, turnedAspect(pixelAspect, request.rotate));
}

/** Where a sounding that is not there yet stands. */
export interface SoundingStanding {
  readonly state: 'not-measured' | 'waiting' | 'measuring';
  /** Measurements that come before it. */
  readonly ahead: number;
}
