import { array, boolean, lazy, number, string, type Schema } from 'yup';
import type { Advisory } from '../core/advice/advisory.ts';
import type { TimeEstimate } from '../core/forecast/encodeTime.ts';
import type { Portion } from '../core/programme/facts.ts';
import type { Recipe } from '../core/recipe/recipe.ts';
import type { WorkLeft } from './queue.ts';
import { recipeSchema } from './recipe.ts';
import { portionName, spanFields } from './span.ts';
import { fault, strictObject } from './strictObject.ts';
import type { Problem, QualityView, RenditionState } from './views.ts';

/** One file that is asked for. */
export interface BatchOrder {
  readonly programmeId: string;
  readonly recipe: Recipe;
  readonly portion: Portion | null;
  /** Kept in the account, and not made. */
  readonly isLeftOut: boolean;
}

/** What all files of a batch are held to: one of the two. */
export type Together =
  { readonly bytes: number; readonly decibels?: undefined } | { readonly decibels: number; readonly bytes?: undefined };

/** Many files at once: every programme by every recipe, or order by order. */
export interface BatchRequest {
  readonly name: string | null;
  readonly programmeIds: readonly string[] | null;
  /** Recipes, or ids of saved ones. */
  readonly recipes: readonly (string | Recipe)[] | null;
  readonly bundleId: string | null;
  readonly briefId: string | null;
  readonly orders: readonly BatchOrder[] | null;
  /**
   * One cap for all files together, or how good each is to be in decibels of SSIM, instead of what their recipes say of their
   * rates.
   */
  readonly together: Together | null;
}

const id = (what: string) => string().max(64, fault(`the id of ${what}`));

const recipeOrId = lazy((value: unknown) =>
  typeof value === 'string' ? id('a recipe').required() : recipeSchema,
) as unknown as Schema<string | Recipe>;

const orderSchema = strictObject({
  programmeId: id('a programme').required(),
  recipe: recipeSchema,
  portion: strictObject({ ...spanFields, name: portionName.optional() })
    .nullable()
    .default(null),
  isLeftOut: boolean().default(false),
}).required();

/** How good all files of a batch may be asked to be, in decibels of SSIM. */
export const LEVELS = { least: 1, most: 60 } as const;

/** Which row of a batch is asked for once more, counted from 0; null takes all that were not made, but for what was left out by hand. */
export const againRequestSchema = strictObject({
  row: number()
    .integer(fault('the number of a row'))
    .min(0, fault('the number of a row'))
    .max(1e6, fault('the number of a row'))
    .nullable()
    .default(null),
}).required();

/** What a batch is asked for with. */
export const batchRequestSchema = strictObject({
  name: string().trim().max(200, fault('at most 200 characters')).nullable().default(null),
  programmeIds: array(id('a programme').required()).nullable().default(null),
  recipes: array(recipeOrId).nullable().default(null),
  bundleId: id('a bundle').nullable().default(null),
  briefId: id('a brief').nullable().default(null),
  orders: array(orderSchema).nullable().default(null),
  together: strictObject({
    bytes: number().integer(fault('whole bytes')).min(1, fault('at least 1 byte')).max(1e15, fault('less')),
    decibels: number()
      .min(LEVELS.least, fault(`at least ${LEVELS.least} dB`))
      .max(LEVELS.most, fault(`at most ${LEVELS.most} dB`)),
  })
    .test(
      'one-aim',
      fault('either bytes or decibels'),
      (value) => !value || (value.bytes === undefined) !== (value.decibels === undefined),
    )
    .nullable()
    .default(null),
}).required(fault('a batch')) as unknown as Schema<BatchRequest>;

/** What one file of a batch would be. */
export interface BatchPlanRow extends BatchOrder {
  readonly programmeName: string;
  readonly sentence: string;
  /** What a brief bent of the order. */
  readonly bent: readonly string[];
  readonly state: 'ready' | 'cannot';
  readonly reason: Pick<Problem, 'code' | 'message'> | null;
  /** Of the programme. */
  readonly seconds: number;
  readonly expected: { readonly low: number; readonly likely: number; readonly high: number } | null;
  /** Whether that is what is usual of its codec, and nothing was measured yet. */
  readonly isGuess: boolean;
  readonly workSeconds: TimeEstimate | null;
  /** What should be known of it and of its programme, the serious first; notes are left out. */
  readonly advisories: readonly Advisory[];
}

/** A sum, and of how many nothing is known. */
interface Sum {
  readonly low: number;
  readonly likely: number;
  readonly high: number;
  readonly unknown: number;
}

/**
 * How a cap for all files together was shared out: of how many it is not known what they take, and by what they are level,
 * measured decibels or constant quality.
 */
export interface SharedOut {
  readonly bytes: number;
  readonly unknown: number;
  readonly by: 'measured' | 'quality' | null;
}

/** How good all files are to be: how many were not tried yet, and how many are not so good at the finest that was tried. */
export interface Levelled {
  readonly decibels: number;
  readonly unknown: number;
  readonly short: number;
  readonly by: 'measured' | null;
}

/** What a batch would be, before it is queued. */
export interface BatchPlan {
  readonly rows: readonly BatchPlanRow[];
  readonly files: number;
  readonly programmeSeconds: number;
  readonly expected: Sum;
  readonly work: Sum;
  /** When it would be done if it was put into the queue now, after what waits there. */
  readonly left: WorkLeft;
  readonly freeBytes: number | null;
  /** Programmes that were not analysed yet: bars, black or missing sound of theirs are not told. */
  readonly notLookedAt: number;
  /** What all files have together; null where each goes by its recipe. */
  readonly together: SharedOut | Levelled | null;
}

export type BatchRowState = RenditionState | 'asked' | 'left-out';

/** What became of one file. */
export interface BatchRowView {
  readonly programmeId: string;
  readonly programmeName: string;
  readonly recipeName: string;
  readonly sentence: string;
  readonly renditionId: string | null;
  readonly state: BatchRowState;
  readonly reason?: string;
  readonly name: string | null;
  readonly path: string | null;
  readonly sourceBytes: number | null;
  readonly expectedBytes: number | null;
  readonly bytes: number | null;
  readonly fraction: number;
  /** Seconds of the programme that it shows, and of work it took. */
  readonly seconds: number | null;
  readonly workSeconds: number | null;
  readonly ssim: QualityView['ssim']['mean'] | null;
  readonly hasFile: boolean;
  /** Whether it is held where it is. */
  readonly paused: boolean;
}

/** Asked = made + failed + stopped + leftOut + waiting. */
interface BatchCounts {
  readonly asked: number;
  readonly made: number;
  readonly failed: number;
  readonly stopped: number;
  readonly leftOut: number;
  readonly waiting: number;
}

export interface BatchSummary extends BatchCounts {
  readonly id: string;
  readonly name: string;
  readonly state: 'running' | 'done';
  readonly askedAt: string;
}

export interface BatchView extends BatchSummary {
  /** Of work, as it was foreseen; null where nothing was known. */
  readonly promisedSeconds: number | null;
  /** When the last of them ended. */
  readonly endedAt: string | null;
  /** Until its last is done, with what comes before it in the queue; null where nothing of it runs or waits, and while it is being ordered. */
  readonly left: WorkLeft | null;
  /** How many can be asked for once more: all that were not made, but for what was left out by hand. */
  readonly again: number;
  readonly rows: readonly BatchRowView[];
}
