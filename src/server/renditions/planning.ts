import type { PlanView } from '../../contract/views.ts';
import type { RenditionRequest } from '../../contract/recipe.ts';
import { soundingOf } from '../../contract/sounding.ts';
import type { Findings } from '../../core/analysis/conclude.ts';
import { averageRate } from '../../core/units.ts';
import { bytesPerHour } from '../../core/budget/projections.ts';
import { pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import { copiesPart } from '../../core/plan/copiedPortion.ts';
import { planRendition } from '../../core/plan/planRendition.ts';
import * as analyses from '../../store/statements/analyses.ts';
import type { Context } from '../context.ts';
import { identityOf, requireUnchanged } from '../programmes/masters.ts';
import { viewCameOut } from '../forecast/cameOut.ts';
import { findCuts } from '../programmes/cuts.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { findSounding } from '../soundings/soundings.ts';

/** Plans an order against its programme. Throws a Refusal that lists everything in the way. */
export async function planOrder(
  context: Context,
  request: RenditionRequest,
): Promise<{ programme: ProgrammeRow; plan: EncodePlan }> {
  const programme = await findProgramme(context, request.programmeId);
  return { programme, plan: await planFor(context, programme, request) };
}

/** The same for a programme that was looked up. */
export async function planFor(
  context: Context,
  programme: ProgrammeRow,
  request: Pick<RenditionRequest, 'recipe' | 'portion'>,
): Promise<EncodePlan> {
  await requireUnchanged(identityOf(programme));
  const { recipe } = request;
  const { facts } = programme;
  const sounded = soundingOf(facts, recipe, request.portion);
  const outcome = planRendition({
    facts,
    clock: await readClock(context, programme),
    recipe,
    portion: request.portion,
    encoders: [...context.engineReport.encoders, ...context.engineReport.soundEncoders],
    sounding: sounded && (await findSounding(context, programme.id, facts, sounded)),
    cameOut: await viewCameOut(context, programme.id),
    cuts: copiesPart(facts, recipe, request.portion) ? (await findCuts(context, programme)).frames : null,
    scan: await findScan(context, programme.id),
  });
  if (outcome.ok) return outcome.plan;
  const all = outcome.problems.map((problem) => ({
    ...problem,
    field: problem.field === 'portion' ? 'portion' : `recipe.${problem.field}`,
  }));
  const [first] = all;
  if (!first) throw new Error('A refused plan names no problem.');
  throw new Refusal(first.code, first.message, { field: first.field, all });
}

async function findScan(context: Context, programmeId: string): Promise<Findings['scan']> {
  const [row] = await context.database.query<{ scan: Findings['scan'] }>(analyses.FIND_SCAN, [programmeId]);
  return row?.scan ?? null;
}

/** The plan as it is answered: what the rendition would be. */
export async function viewPlan(context: Context, request: RenditionRequest): Promise<PlanView> {
  const { programme, plan } = await planOrder(context, request);
  const { budget } = plan;
  const durationSeconds = plan.span.seconds;
  const out = pictureOf(plan)?.out;
  const expected = budget.expected;
  return {
    programmeId: programme.id,
    recipe: request.recipe,
    width: out?.size.width ?? null,
    height: out?.size.height ?? null,
    frameCount: out?.frameCount ?? 0,
    durationSeconds,
    passes: plan.passes,
    budget: {
      capBytes: budget.cap,
      videoBytes: budget.split.video,
      audioBytes: budget.split.audio,
      containerBytes: budget.split.container,
      headroomBytes: budget.headroom,
      videoKbps: budget.videoRate === null ? null : budget.videoRate / 1000,
      binds: budget.binds,
    },
    expectedBytes: expected?.likely ?? null,
    expectedRange: expected && { low: expected.low, high: expected.high },
    averageKbps: expected && averageRate(expected.likely, durationSeconds) / 1000,
    bytesPerHour: expected && bytesPerHour(expected.likely, durationSeconds),
    advisories: plan.advisories,
  };
}
