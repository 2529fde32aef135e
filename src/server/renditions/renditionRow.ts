import { readPlan } from '../../contract/stored/plan.ts';
import { readRecipe } from '../../contract/stored/recipe.ts';
import { readFill } from '../../contract/stored/result.ts';
import type { Check, FillView, Problem, QualityView, RenditionState, RenditionView } from '../../contract/views.ts';
import type { Portion, ProgrammeFacts } from '../../core/programme/facts.ts';
import type { EncodePlan, PassName } from '../../core/plan/encodePlan.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';

/** A rendition as it is worked with, with what is needed of its programme. */
export interface RenditionRow {
  readonly id: string;
  readonly programme_id: string;
  readonly programme_name: string;
  readonly source_path: string;
  readonly source_facts: ProgrammeFacts;
  readonly source_modified_at: Date;
  readonly source_fingerprint: string | null;
  readonly recipe: Recipe;
  readonly portion: Portion | null;
  readonly portion_name: string | null;
  readonly plan: EncodePlan;
  readonly name: string;
  readonly path: string;
  readonly keep_failed: boolean;
  readonly state: RenditionState;
  readonly problem: Problem | null;
  readonly attempt: number;
  readonly runner: string | null;
  readonly engine_deaths: number;
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
  readonly checks: Check[];
  readonly quality: QualityView | null;
  readonly fill: FillView | null;
  readonly has_file: boolean;
}

/** A rendition as it lies in the database. */
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

export function viewRendition(row: RenditionRow): RenditionView {
  return {
    id: row.id,
    programmeId: row.programme_id,
    programmeName: row.programme_name,
    recipe: row.recipe,
    portion: row.portion,
    portionName: row.portion_name,
    name: row.name,
    path: row.path,
    state: row.state,
    ...(row.problem ? { problem: row.problem } : {}),
    plan: row.plan,
    pass: row.pass,
    passes: row.passes,
    stage: row.stage,
    fraction: row.fraction,
    framesPerSecond: row.fps,
    secondsLeft: row.seconds_left,
    expectedBytes: row.expected_bytes,
    bytes: row.bytes,
    queuedAt: row.queued_at.toISOString(),
    startedAt: row.started_at?.toISOString() ?? null,
    finishedAt: row.finished_at?.toISOString() ?? null,
    encodeSeconds: row.encode_seconds,
    checkSeconds: row.check_seconds,
    checks: row.checks,
    quality: row.quality,
    fill: row.fill,
    hasFile: row.has_file,
  };
}
