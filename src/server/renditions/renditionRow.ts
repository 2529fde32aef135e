import { readPlan } from '../../contract/stored/plan.ts';
import { readRecipe } from '../../contract/stored/recipe.ts';
import { readFill } from '../../contract/stored/result.ts';
import type {
  Check,
  FillView,
  Problem,
  QualityView,
  RenditionOutline,
  RenditionState,
  RenditionSummary,
  RenditionView,
} from '../../contract/views.ts';
import type { Brief } from '../../core/brief/brief.ts';
import type { Portion, ProgrammeFacts } from '../../core/programme/facts.ts';
import { pictureOf, type EncodePlan, type PassName } from '../../core/plan/encodePlan.ts';
import { describeRecipe, nameTreatment } from '../../core/recipe/describeRecipe.ts';
import { orderKey } from '../../core/recipe/orderKey.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';

/** A rendition as lists need it. */
export interface SummaryRow {
  readonly id: string;
  readonly programme_id: string;
  readonly programme_name: string;
  readonly recipe: Recipe;
  readonly portion: Portion | null;
  readonly portion_name: string | null;
  readonly outline: RenditionOutline;
  readonly name: string;
  readonly state: RenditionState;
  readonly problem: Problem | null;
  readonly queue_order: number;
  readonly queued_at: Date;
  readonly started_at: Date | null;
  readonly finished_at: Date | null;
  readonly stage: PassName | 'checking' | null;
  readonly pass: number | null;
  readonly passes: number;
  readonly fraction: number;
  readonly fps: number | null;
  readonly seconds_left: number | null;
  readonly expected_bytes: number | null;
  readonly bytes: number | null;
  readonly encode_seconds: number | null;
  readonly check_seconds: number | null;
  readonly checks_passed: number;
  readonly quality: QualityView | null;
  readonly fill_outcome: FillView['outcome'] | null;
  readonly has_file: boolean;
  readonly batch_id: string | null;
  readonly batch_name: string | null;
  /** null where there is no work left to hold. */
  readonly held: boolean | null;
}

/** A rendition as it is worked with, with what is needed of its programme. */
export interface RenditionRow extends SummaryRow {
  readonly source_path: string;
  readonly source_facts: ProgrammeFacts;
  readonly source_modified_at: Date;
  readonly source_fingerprint: string | null;
  readonly plan: EncodePlan;
  readonly path: string;
  readonly keep_failed: boolean;
  readonly checks: Check[];
  readonly fill: FillView | null;
  readonly brief: Brief | null;
}

/** The same as they lie in the database. */
export interface StoredSummary extends Omit<SummaryRow, 'recipe'>, Record<string, unknown> {
  readonly recipe: unknown;
}
export interface StoredRendition extends Omit<RenditionRow, 'recipe' | 'plan' | 'fill'>, Record<string, unknown> {
  readonly recipe: unknown;
  readonly plan: unknown;
  readonly fill: unknown;
}

/**
 * A stored rendition, whatever version wrote it.
 *
 * @throws StoredUnreadable
 */
export function readRendition(stored: StoredRendition): RenditionRow {
  return {
    ...stored,
    recipe: readRecipe(stored.recipe),
    plan: readPlan(stored.plan),
    fill: readFill(stored.fill),
  };
}

/** A rendition in words, at the frame size it has. */
export function sentenceOf(recipe: Recipe, outline: Pick<RenditionOutline, 'width' | 'height'> | null): string {
  const { width, height } = outline ?? {};
  return describeRecipe(recipe, width && height ? { width, height } : null);
}

/** Seconds of work that went into it; null while it is not encoded. */
export function workSecondsOf(row: {
  readonly encode_seconds: number | null;
  readonly check_seconds: number | null;
}): number | null {
  return row.encode_seconds === null ? null : row.encode_seconds + (row.check_seconds ?? 0);
}

/** As lists have it. */
export function viewSummary(stored: SummaryRow | StoredSummary): RenditionSummary {
  const recipe = readRecipe(stored.recipe);
  const { outline, portion } = stored;
  return {
    id: stored.id,
    programmeId: stored.programme_id,
    programmeName: stored.programme_name,
    sentence: sentenceOf(recipe, outline),
    orderKey: orderKey(recipe, portion),
    outline,
    preparation: nameTreatment(recipe),
    portion,
    portionName: stored.portion_name,
    name: stored.name,
    state: stored.state,
    ...(stored.problem ? { problem: stored.problem } : {}),
    pass: stored.pass,
    passes: stored.passes,
    stage: stored.stage,
    fraction: stored.fraction,
    framesPerSecond: stored.fps,
    secondsLeft: stored.seconds_left,
    expectedBytes: stored.expected_bytes,
    bytes: stored.bytes,
    queuedAt: stored.queued_at.toISOString(),
    startedAt: stored.started_at?.toISOString() ?? null,
    finishedAt: stored.finished_at?.toISOString() ?? null,
    encodeSeconds: stored.encode_seconds,
    checkSeconds: stored.check_seconds,
    checksPassed: stored.checks_passed,
    quality: stored.quality && withoutLook(stored.quality),
    fillOutcome: stored.fill_outcome,
    hasFile: stored.has_file,
    batch: stored.batch_id === null ? null : { id: stored.batch_id, name: stored.batch_name ?? '' },
    paused: stored.held === true,
    recipeName: recipe.name,
  };
}

/** With everything. */
export function viewRendition(row: RenditionRow): RenditionView {
  const { recipe, path, plan, checks, fill } = row;
  return { ...viewSummary(row), quality: row.quality, recipe, path, plan, checks, fill };
}

/** Lists stay light. */
function withoutLook({ ssim, psnr, scaler }: QualityView): QualityView {
  return { ssim, psnr, scaler };
}

/** What a plan comes to, in a few words. */
export function outlineOf(plan: EncodePlan): RenditionOutline {
  const picture = pictureOf(plan);
  return {
    codec: picture && (picture.do.kind === 'copy' ? 'copy' : picture.do.codec),
    width: picture?.out.size.width ?? null,
    height: picture?.out.size.height ?? null,
    frameCount: picture?.out.frameCount ?? 0,
    seconds: plan.span.seconds,
    capBytes: plan.budget.cap,
  };
}
