import { boolean, lazy, number, string, type InferType, type Schema } from 'yup';
import { CONTAINERS } from '../core/container/names.ts';
import { LONGEST_TAG, TAGS, type Tag } from '../core/container/tags.ts';
import { faultInTemplate } from '../core/naming/nameTemplate.ts';
import { FRAME_RATE_RANGE, type FrameRateChoice } from '../core/recipe/frameRate.ts';
import { CAPTION_CHOICES, STARTING_RECIPE, type MetadataChoice } from '../core/recipe/recipe.ts';
import { fraction } from './fraction.ts';
import { audioSchema } from './recipeAudio.ts';
import { pictureSchema } from './recipePicture.ts';
import { videoSchema } from './recipeVideo.ts';
import { portionName, spanFields } from './span.ts';
import { fault, strictObject } from './strictObject.ts';

const [LEAST_FPS, MOST_FPS] = FRAME_RATE_RANGE;

/** Frames a second that an encoder is asked for. */
const frameRate = fraction.test('in-range', fault(`from ${LEAST_FPS} to ${MOST_FPS} frames a second`), (rate) => {
  const value = rate.num / rate.den;
  return value >= LEAST_FPS && value <= MOST_FPS;
});

const frameRateSchema = lazy((value: unknown) => {
  if (typeof value !== 'object' || value === null) {
    const words = ['source', 'half', 'fields'] as const;
    return string()
      .oneOf(words, fault('“source”, “half”, “fields”, {"num", "den"} or {"atMost": {"num", "den"}}'))
      .default('source');
  }
  return 'atMost' in value ? strictObject({ atMost: frameRate.required() }).required() : frameRate.required();
}) as unknown as Schema<FrameRateChoice>;

const tag = string()
  .max(LONGEST_TAG, fault(`at most ${LONGEST_TAG} characters`))
  .optional();
const tagsSchema = strictObject(Object.fromEntries(TAGS.map((name) => [name, tag])) as Record<Tag, typeof tag>);

const metadataSchema = lazy((value: unknown) =>
  typeof value === 'object' && value !== null
    ? tagsSchema.required()
    : string()
        .oneOf(['strip', 'keep'], fault(`“strip”, “keep” or an object with any of ${TAGS.join(', ')}`))
        .default('strip'),
) as unknown as Schema<MetadataChoice>;

/** The recipe as it travels and is saved, `linstock.recipe/1`; unknown keys are refused by name. */
export const recipeSchema = strictObject({
  format: string().oneOf(['linstock.recipe/1'], fault('the format “linstock.recipe/1”')).default('linstock.recipe/1'),
  name: string().max(200, fault('at most 200 characters')).default('Untitled'),
  container: string()
    .oneOf(CONTAINERS, fault(`one of ${CONTAINERS.join(', ')}`))
    .default(CONTAINERS[0]),
  video: videoSchema,
  picture: pictureSchema,
  time: strictObject({ frameRate: frameRateSchema }).default({ frameRate: 'source' }),
  audio: audioSchema,
  file: strictObject({
    chapters: boolean().default(true),
    captions: string()
      .oneOf(CAPTION_CHOICES, fault(`one of ${CAPTION_CHOICES.join(', ')}`))
      .default('beside'),
    captionTrack: number()
      .integer(fault('a whole number'))
      .min(0, fault('0 or more'))
      .max(99, fault('at most 99'))
      .default(0),
    metadata: metadataSchema,
    name: string()
      .test({
        name: 'fillable',
        test: (template, context) => {
          const wrong = template == null ? null : faultInTemplate(template);
          return wrong === null || context.createError({ message: wrong });
        },
      })
      .nullable()
      .default(null),
  }).default(STARTING_RECIPE.file),
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
