import type { PlanView } from '../../contract/views.ts';
import type { RenditionRequest } from '../../contract/recipe.ts';
import { soundingOf } from '../../contract/sounding.ts';
import type { Advisory } from '../../core/advice/advisory.ts';
import { averageRate } from '../../core/units.ts';
import { bytesPerHour } from '../../core/budget/projections.ts';
import { pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import { withEnds, type Sounding } from '../../core/sounding/sounding.ts';
import { isRated, RATED } from '../../core/video/codecs.ts';
import type { Context } from '../context.ts';
import { findProgramme, type ProgrammeRow } from '../programmes/programmes.ts';
import { findSounding } from '../soundings/soundings.ts';
import { settleSize } from '../trials/openSize.ts';
import { findTriedSounding } from '../trials/triedSounding.ts';
import { planWith } from './planning.ts';

/** Plans an order against its programme. Throws a Refusal that lists everything in the way. */
export async function planOrder(
  context: Context,
  request: RenditionRequest,
): Promise<{ programme: ProgrammeRow; plan: EncodePlan }> {
  const programme = await findProgramme(context, request.programmeId);
  return { programme, plan: await planFor(context, programme, request) };
}

/** The same for a programme that was looked up. What was tried at these very settings tells more than a sounding. */
export async function planFor(
  context: Context,
  programme: ProgrammeRow,
  request: Pick<RenditionRequest, 'recipe' | 'portion'>,
): Promise<EncodePlan> {
  const { recipe, reason } = await settleSize(context, programme, request);
  const settled = { recipe, portion: request.portion };
  const { tried, quick } = await findForesight(context, programme, settled);
  const plan = await planWith(context, programme, settled, tried ?? quick);
  return reason === null ? plan : { ...plan, advisories: [...plan.advisories, measuredSize(reason)] };
}

/** What chose the frame size that an order left open. */
function measuredSize(reason: string): Advisory {
  return { code: 'frame-size-measured', severity: 'note', field: 'picture.fit', message: reason, remedy: '' };
}

/** What is known beforehand of an order's size: by trials at its settings, and by a quick sounding. */
export async function findForesight(
  context: Context,
  programme: ProgrammeRow,
  { recipe, portion }: Pick<RenditionRequest, 'recipe' | 'portion'>,
): Promise<{ readonly tried: Sounding | null; readonly quick: Sounding | null }> {
  const sounded = soundingOf(programme.facts, recipe, portion);
  if (!sounded) return { tried: null, quick: null };
  const quick = await findSounding(context, programme.id, programme.facts, sounded);
  if (!isRated(sounded.codec)) return { tried: null, quick };
  const tried = await findTriedSounding(context, programme, recipe, portion);
  return { tried: tried && withEnds(tried, quick, RATED[sounded.codec].quality), quick };
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
