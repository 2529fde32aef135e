import { boolean, number, string } from 'yup';
import { LARGEST_SIDE, PIXEL_ASPECTS } from '../core/geometry/frameSize.ts';
import type { Framing } from '../core/geometry/framing.ts';
import { BLUR, DYNAMIC_RANGES, FIELD_ORDERS, FLIPS, TURNS, type Turn } from '../core/geometry/preparation.ts';
import { ADJUST_RANGE, UNADJUSTED, type Adjustment } from '../core/picture/adjust.ts';
import { LONGEST_MARK, MARK_PLACES, MARK_SIZES, USUAL_MARK, type MarkChoice } from '../core/picture/mark.ts';
import { OWN_PICTURE } from '../core/recipe/recipe.ts';
import { frameSide } from './frameSide.ts';
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

const side = frameSide.required(fault('a width and a height'));

const fillSchema = strictObject({ width: side, height: side }).nullable();

const edge = (name: string) =>
  number()
    .integer(fault(`a whole number of pixels at the ${name}`))
    .min(0, fault('0 pixels or more'))
    .max(LARGEST_SIDE, fault(`at most ${LARGEST_SIDE} pixels`))
    .test('even', fault('an even number of pixels: colour is stored for two by two'), (value) => (value ?? 0) % 2 === 0)
    .default(0);

const cropSchema = strictObject({
  top: edge('top'),
  bottom: edge('bottom'),
  left: edge('left'),
  right: edge('right'),
}).nullable();

const padSchema = strictObject({
  width: side,
  height: side,
  with: string()
    .matches(new RegExp(`^(#[0-9a-fA-F]{6}|${BLUR})$`), fault(`a colour such as #000000, or ${BLUR}`))
    .default('#000000'),
}).nullable();

const adjustment = (key: keyof Adjustment) =>
  number()
    .min(ADJUST_RANGE[key][0], fault(`at least ${ADJUST_RANGE[key][0]}`))
    .max(ADJUST_RANGE[key][1], fault(`at most ${ADJUST_RANGE[key][1]}`))
    .default(UNADJUSTED[key]);

const adjustSchema = strictObject({
  brightness: adjustment('brightness'),
  contrast: adjustment('contrast'),
  saturation: adjustment('saturation'),
  gamma: adjustment('gamma'),
}).nullable();

/** What is done to frames besides scaling them; shared with what a sounding is asked for. */
export const preparationFields = {
  deinterlace: string()
    .oneOf(FIELD_ORDERS, fault(`null or one of ${FIELD_ORDERS.join(', ')}`))
    .nullable()
    .default(null),
  crop: cropSchema.default(null),
  rotate: number<Turn>()
    .oneOf(TURNS, fault(`one of ${TURNS.join(', ')}`))
    .default(0),
  flip: string()
    .oneOf(FLIPS, fault(`null or one of ${FLIPS.join(', ')}`))
    .nullable()
    .default(null),
  pad: padSchema.default(null),
  denoise: number().min(0, fault('0 or more')).max(1, fault('at most 1')).default(0),
  adjust: adjustSchema.default(null),
  dynamicRange: string()
    .oneOf(DYNAMIC_RANGES, fault(`one of ${DYNAMIC_RANGES.join(', ')}`))
    .default('source'),
};

const markSchema = strictObject({
  text: string()
    .trim()
    .min(1, fault('a line of text'))
    .max(LONGEST_MARK, fault(`at most ${LONGEST_MARK} characters`))
    .nullable()
    .default(null),
  file: string().max(4096, fault('the path of a picture')).nullable().default(null),
  place: string()
    .oneOf(MARK_PLACES, fault(`one of ${MARK_PLACES.join(', ')}`))
    .default(USUAL_MARK.place),
  size: number()
    .min(MARK_SIZES[0], fault(`at least ${MARK_SIZES[0]}`))
    .max(MARK_SIZES[1], fault(`at most ${MARK_SIZES[1]}`))
    .default(USUAL_MARK.size),
  opacity: number().min(0, fault('0 or more')).max(1, fault('at most 1')).default(USUAL_MARK.opacity),
})
  .nullable()
  .test(
    'text-or-picture',
    fault('either a text or a file'),
    (mark: Partial<MarkChoice> | null | undefined) => mark == null || (mark.text == null) !== (mark.file == null),
  );

/** What a recipe says of the picture. */
export const pictureSchema = strictObject({
  ...preparationFields,
  fit: fitSchema.default(null),
  fill: fillSchema.default(null),
  mark: markSchema.default(null),
  pixelAspect: string()
    .oneOf(PIXEL_ASPECTS, fault(`one of ${PIXEL_ASPECTS.join(', ')}`))
    .default('square'),
})
  .test(
    'one-frame',
    fault('one of fit, fill and pad: each says what the frame size is'),
    (picture: Partial<Framing> | null | undefined) =>
      [picture?.fit, picture?.fill, picture?.pad].filter(Boolean).length <= 1,
  )
  .default(OWN_PICTURE);
