import { array, number, string, type InferType } from 'yup';
import type { Excerpt } from '../core/excerpts/chooseExcerpts.ts';
import type { Portion } from '../core/programme/facts.ts';
import { MEASURES, type Measure } from '../core/quality/closerLook.ts';
import type { Recipe } from '../core/recipe/recipe.ts';
import type { ScaleCurve, ScalePlace } from '../core/scale/curve.ts';
import { SHARE_RANGE, USUAL_SHARE_TRIED, type GridCurve } from '../core/scale/grid.ts';
import { isRated, RATED, RATED_CODECS } from '../core/video/codecs.ts';
import { EFFORTS } from '../core/video/definition.ts';
import { recipeSchema } from './recipe.ts';
import { frameSide } from './frameSide.ts';
import { spanFields } from './span.ts';
import { fault, strictObject } from './strictObject.ts';
import type { Problem } from './views.ts';

const MOST_QUALITIES = 12;
const MOST_CURVES = 40;
const MOST_SPANS = 50;

const side = frameSide.required(fault('a number of pixels'));

const placeFields = {
  codec: string()
    .required(fault(`one of ${RATED_CODECS.join(', ')}`))
    .oneOf(RATED_CODECS, fault(`one of ${RATED_CODECS.join(', ')}`)),
  width: side,
  height: side,
  effort: string()
    .oneOf(EFFORTS, fault(`one of ${EFFORTS.join(', ')}`))
    .optional(),
};

/** Which point of a scale is looked at. */
export const triedPointSchema = strictObject({
  ...placeFields,
  quality: number().required(fault('a quality')),
}).required();

const curveSchema = strictObject({
  ...placeFields,
  qualities: array(number().required(fault('a quality')))
    .required(fault('a list of qualities'))
    .min(1, fault('at least one quality'))
    .max(MOST_QUALITIES, fault(`at most ${MOST_QUALITIES} qualities`)),
})
  .required(fault('a codec, a frame size and qualities'))
  .test('on-the-scale', 'is not on the scale of its codec', (curve, { createError, path }) => {
    // What is missing or no codec was said at its own place.
    if (!isRated(curve.codec) || !Array.isArray(curve.qualities)) return true;
    const { best, worst } = RATED[curve.codec].quality;
    const off = curve.qualities.find((value) => value < best || value > worst);
    return (
      off === undefined ||
      createError({ path: `${path}.qualities`, message: fault(`qualities from ${best} to ${worst}`) })
    );
  });

const spans = array(strictObject(spanFields).required(fault('a stretch of frames')))
  .max(MOST_SPANS, fault(`at most ${MOST_SPANS} stretches`))
  .default([]);

/** What a trial is asked for. */
export const trialRequestSchema = strictObject({
  programmeId: string().required(fault('the id of a programme')),
  recipe: recipeSchema,
  portion: strictObject(spanFields).nullable().default(null),
  /** Left out: proposed from the order. */
  grid: array(curveSchema)
    .min(1, fault('at least one curve'))
    .max(MOST_CURVES, fault(`at most ${MOST_CURVES} curves`))
    .optional(),
  /** Of the portion's frames, that are tried. */
  share: number()
    .min(SHARE_RANGE[0], fault(`at least ${SHARE_RANGE[0]} of the frames`))
    .max(SHARE_RANGE[1], fault(`at most ${SHARE_RANGE[1]} of the frames`))
    .default(USUAL_SHARE_TRIED),
  /** Frames the editor wants to see tried, and frames that are not to be. */
  pinned: spans,
  dropped: spans,
}).required(fault('what is to be tried'));

export type TrialRequest = Omit<InferType<typeof trialRequestSchema>, 'recipe' | 'grid'> & {
  readonly recipe: Recipe;
  readonly grid?: readonly GridCurve[] | undefined;
};

/** An order whose size trials may foresee. */
export const triedRequestSchema = strictObject({
  recipe: recipeSchema,
  portion: strictObject(spanFields).nullable().default(null),
}).required(fault('an order'));

export type TriedRequest = Pick<TrialRequest, 'recipe' | 'portion'>;

export const TRIAL_STATES = ['waiting', 'running', 'done', 'failed', 'stopped'] as const;
export type TrialState = (typeof TRIAL_STATES)[number];

/** A stretch that trials encode, with how much of the portion it stands for. */
export interface ExcerptView extends Portion {
  /** Of all frames, as a share. */
  readonly weight: number;
  readonly reason: Excerpt['reason'];
}

/** A point of the grid that was not tried, and why. */
export interface GapView {
  readonly codec: ScaleCurve['codec'];
  readonly width: number;
  readonly height: number;
  readonly quality: number;
  readonly reason: string;
}

/** Where a trial stands. */
export interface TrialView {
  readonly id: string;
  readonly programmeId: string;
  readonly state: TrialState;
  readonly fraction: number;
  readonly secondsLeft: number | null;
  readonly problem?: Problem;
  readonly portion: Portion | null;
  readonly grid: TrialGrid;
  readonly share: number;
  readonly pinned: readonly Portion[];
  readonly dropped: readonly Portion[];
  /** null until they are chosen. */
  readonly excerpts: readonly ExcerptView[] | null;
  readonly gaps: readonly GapView[];
  readonly askedAt: string;
  readonly finishedAt: string | null;
  readonly workSeconds: number | null;
}

/** Which codecs, frame sizes and qualities are tried. */
export type TrialGrid = readonly GridCurve[];

/** What a trial would be. */
export interface TrialPlan {
  readonly grid: TrialGrid;
  readonly points: number;
  /** Of the portion that is tried. */
  readonly excerptSeconds: number;
  /** null while nothing of the kind was encoded here. */
  readonly workSeconds: number | null;
  readonly gaps: readonly GapView[];
}

/** What is asked of a scale. */
export const scaleRequestSchema = strictObject({
  capBytes: number().integer(fault('whole bytes')).min(1, fault('at least 1 byte')).optional(),
  measure: string()
    .oneOf(MEASURES, fault(`one of ${MEASURES.join(', ')}`))
    .default('ssim'),
}).required();

export type ScaleRequest = InferType<typeof scaleRequestSchema>;

/** A place that was chosen, in words. */
export interface NamedPlace extends ScalePlace {
  readonly reason: string;
}

/** Size against quality of a programme. */
export interface ScaleView {
  readonly measure: Measure;
  /** What the sizes and qualities are of; null is the whole. */
  readonly portion: Portion | null;
  readonly trialId: string | null;
  readonly curves: readonly ScaleCurve[];
  /** Under the cap that was asked about; null without one, or where nothing fits. */
  readonly best: NamedPlace | null;
  readonly knee: NamedPlace | null;
  /** On how many finished renditions the error bars rest, by codec. */
  readonly results: Readonly<Record<string, number>>;
}
