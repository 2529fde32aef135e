import type { GapView, TrialRequest, TrialState, TrialView } from '../../contract/trial.ts';
import { readRecipe } from '../../contract/stored/recipe.ts';
import type { Problem } from '../../contract/views.ts';
import type { Excerpt } from '../../core/excerpts/chooseExcerpts.ts';
import { isEncoded, pictureOf, type EncodedPicture, type EncodePlan } from '../../core/plan/encodePlan.ts';
import type { Portion } from '../../core/programme/facts.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { proposeGrid, recipeAt, TRIED_SECONDS, type GridCurve } from '../../core/scale/grid.ts';
import { toNumber } from '../../core/timing/rational.ts';
import * as statements from '../../store/statements/trials.ts';
import type { Context } from '../context.ts';
import { PRIORITY } from '../jobs/job.ts';
import { enqueue, withdraw } from '../jobs/queue.ts';
import type { Scheduler } from '../jobs/scheduler.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { isRefusal, Refusal } from '../refusal.ts';
import { planWith } from '../renditions/planning.ts';

/** A trial as it is worked with. */
export interface Trial {
  readonly id: string;
  readonly programme_id: string;
  readonly recipe: Recipe;
  readonly portion: Portion | null;
  readonly grid: readonly GridCurve[];
  readonly share: number;
  readonly pinned: Portion[];
  readonly dropped: Portion[];
  readonly state: TrialState;
  readonly problem: Problem | null;
  readonly excerpts: StoredExcerpt[] | null;
  readonly gaps: GapView[];
  readonly fraction: number;
  readonly seconds_left: number | null;
  readonly work_seconds: number | null;
  readonly asked_at: Date;
  readonly finished_at: Date | null;
}

/** An excerpt as a trial keeps it. */
export interface StoredExcerpt {
  readonly inFrame: number;
  readonly frameCount: number;
  readonly weight: number;
  readonly reason: Excerpt['reason'];
}

/** The same as it lies in the database. */
interface TrialRow extends Omit<Trial, 'recipe'>, Record<string, unknown> {
  readonly recipe: unknown;
}

/** One point of a grid, with its plan. */
export interface PlannedPoint extends Omit<GridCurve, 'qualities'> {
  readonly quality: number;
  readonly plan: EncodePlan;
  readonly picture: EncodedPicture;
}

/** Curves' points as plans, the middle qualities first, and those that cannot be. */
export async function planPoints(
  context: Context,
  programme: ProgrammeRow,
  { recipe, grid, portion }: Pick<Trial, 'recipe' | 'grid' | 'portion'>,
): Promise<{ points: PlannedPoint[]; gaps: GapView[] }> {
  const ranked: { rank: number; point: PlannedPoint }[] = [];
  const gaps: GapView[] = [];
  for (const { qualities, ...curve } of grid) {
    for (const [index, quality] of qualities.entries()) {
      const at = { ...curve, quality };
      try {
        const plan = await planWith(context, programme, { recipe: recipeAt(recipe, at, quality), portion }, null);
        const picture = pictureOf(plan);
        if (!picture || !isEncoded(picture)) continue;
        ranked.push({ rank: Math.abs(index - (qualities.length - 1) / 2), point: { ...at, plan, picture } });
      } catch (error) {
        if (!isRefusal(error)) throw error;
        gaps.push({ ...at, reason: error.message });
      }
    }
  }
  return { points: ranked.toSorted((a, b) => a.rank - b.rank).map(({ point }) => point), gaps };
}

/** What is tried at most, in seconds of a portion. */
export function triedSeconds(portionSeconds: number, share: number): number {
  return Math.min(portionSeconds, Math.max(TRIED_SECONDS[0], Math.min(TRIED_SECONDS[1], share * portionSeconds)));
}

/** The curves of a request: those it names, or those that are proposed for its order. */
export function gridOf(
  context: Context,
  programme: ProgrammeRow,
  { recipe, grid }: TrialRequest,
): readonly GridCurve[] {
  const proposed = grid ?? proposeGrid(programme.facts, recipe, context.engineReport.encoders);
  if (proposed.length > 0) return proposed;
  throw new Refusal('nothing-to-try', 'There is nothing to try: this order has no quality or rate to choose.', {
    field: 'recipe.video',
  });
}

/** @throws Refusal where there is nothing to try. */
export async function requirePicture(context: Context, programmeId: string): Promise<ProgrammeRow> {
  const programme = await findProgramme(context, programmeId);
  if (!programme.facts.video) {
    const message =
      'This programme has sound only: its size follows from the sound’s rate, and there is nothing to try.';
    throw new Refusal('no-picture', message);
  }
  if (programme.facts.frameCount < 2) {
    throw new Refusal(
      'nothing-to-try',
      'A single picture is encoded whole at once; there is nothing to foresee by trials.',
    );
  }
  return programme;
}

/** Puts a trial into the queue; one of the same programme that waits or runs is stopped for it. */
export async function askTrial(context: Context, scheduler: Scheduler, request: TrialRequest): Promise<{ id: string }> {
  const programme = await requirePicture(context, request.programmeId);
  const grid = gridOf(context, programme, request);
  const { points, gaps } = await planPoints(context, programme, { ...request, grid });
  if (points.length === 0) {
    throw new Refusal('nothing-to-try', gaps[0]?.reason ?? 'There is nothing to try.', { field: 'grid' });
  }
  for (const { id, state } of await trialsOf(context, programme.id)) {
    if (state === 'waiting' || state === 'running') await stopTrial(context, scheduler, id);
  }
  const id = context.newId();
  const json = [request.recipe, request.portion, grid].map((value) => JSON.stringify(value));
  const spans = [request.pinned, request.dropped].map((value) => JSON.stringify(value));
  await context.database.transaction(async (query) => {
    const values = [id, programme.id, ...json, request.share, ...spans, context.now()];
    await query(statements.INSERT_TRIAL, values);
    await enqueue(query, { kind: 'trial', subject: id, priority: PRIORITY.trial });
  });
  context.events.publish({ type: 'trial', programmeId: programme.id, hasEnded: false });
  scheduler.wake();
  return { id };
}

/** Ends a trial; what was measured stays. */
export async function stopTrial(context: Context, scheduler: Scheduler, id: string): Promise<TrialView> {
  await findTrial(context, id);
  await context.database.transaction(async (query) => {
    await withdraw(query, 'trial', id);
    await query(statements.END_TRIAL, [id, 'stopped', null, null, null, context.now()]);
  });
  await scheduler.end('trial', id);
  const trial = await findTrial(context, id);
  context.events.publish({ type: 'trial', programmeId: trial.programme_id, hasEnded: true });
  return viewTrial(trial);
}

/** @throws Refusal `not-found`. */
export async function findTrial(context: Context, id: string): Promise<Trial> {
  const [row] = await context.database.query<TrialRow>(statements.FIND_TRIAL, [id]);
  if (!row) throw new Refusal('not-found', `There is no trial ${id}.`);
  return readTrial(row);
}

/** Trials that are looked back at. */
const MOST_LISTED = 20;

/** Trials of a programme, the newest first. */
export async function trialsOf(context: Context, programmeId: string): Promise<Trial[]> {
  const rows = await context.database.query<TrialRow>(statements.TRIALS_OF, [programmeId, MOST_LISTED]);
  return rows.map(readTrial);
}

function readTrial(row: TrialRow): Trial {
  return { ...row, recipe: readRecipe(row.recipe) };
}

export function viewTrial(trial: Trial): TrialView {
  return {
    id: trial.id,
    programmeId: trial.programme_id,
    state: trial.state,
    fraction: trial.fraction,
    secondsLeft: trial.seconds_left,
    ...(trial.problem ? { problem: trial.problem } : {}),
    portion: trial.portion,
    grid: trial.grid,
    share: trial.share,
    pinned: trial.pinned,
    dropped: trial.dropped,
    excerpts:
      trial.excerpts?.map(({ inFrame, frameCount, weight, reason }) => ({
        inFrame,
        outFrame: inFrame + frameCount - 1,
        weight,
        reason,
      })) ?? null,
    gaps: trial.gaps,
    askedAt: trial.asked_at.toISOString(),
    finishedAt: trial.finished_at?.toISOString() ?? null,
    workSeconds: trial.work_seconds,
  };
}

/** Fewer excerpts than this cannot tell how far they may be off. */
const FEWEST_EXCERPTS = 3;

/** Excerpts are whole groups: so many. */
export function groupsToTry(picture: EncodedPicture, portionSeconds: number, share: number): number {
  const seconds = picture.do.keyframeInterval / toNumber(picture.out.frameRate);
  return Math.max(FEWEST_EXCERPTS, Math.ceil(triedSeconds(portionSeconds, share) / seconds - 0.25));
}
