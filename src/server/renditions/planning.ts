import type { RenditionRequest } from '../../contract/recipe.ts';
import type { EncodePlan } from '../../core/plan/encodePlan.ts';
import { copiesPart } from '../../core/plan/copiedPortion.ts';
import { planRendition } from '../../core/plan/planRendition.ts';
import type { Found } from '../../core/plan/planRequest.ts';
import { ratedVideo } from '../../core/recipe/recipe.ts';
import type { Sounding } from '../../core/sounding/sounding.ts';
import type { RatedCodec } from '../../core/video/codecs.ts';
import { workingCodecs } from '../../core/video/hardware.ts';
import * as analyses from '../../store/statements/analyses.ts';
import type { Context } from '../context.ts';
import { identityOf, requireUnchanged } from '../programmes/masters.ts';
import { viewCameOut } from '../forecast/cameOut.ts';
import { listPortions } from '../portions/portions.ts';
import { findCuts } from '../programmes/cuts.ts';
import { readClock } from '../programmes/frameTimes.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { Refusal } from '../refusal.ts';
import { findMark } from '../drawn/readDrawn.ts';

/**
 * Plans an order against its programme, by what is known of its size.
 *
 * @param sounding - null where nothing is, or nothing of it is wanted.
 * @throws Refusal that lists everything in the way.
 */
export async function planWith(
  context: Context,
  programme: ProgrammeRow,
  request: Pick<RenditionRequest, 'recipe' | 'portion'>,
  sounding: Sounding | null,
): Promise<EncodePlan> {
  await requireUnchanged(identityOf(programme));
  const { recipe } = request;
  const { facts } = programme;
  const { mark } = recipe.picture;
  if (mark?.file) await findMark(context.config, mark.file);
  const outcome = planRendition({
    facts,
    clock: await readClock(context, programme),
    recipe,
    portion: request.portion,
    encoders: [...context.engineReport.encoders, ...context.engineReport.soundEncoders],
    ...(ratedVideo(recipe)?.hardware ? { hardware: await workingHardware(context) } : {}),
    sounding,
    ...(ratedVideo(recipe)?.keyframesAtPortions ? { portionIns: await findPortionIns(context, programme.id) } : {}),
    cameOut: await viewCameOut(context, programme.id),
    cuts: copiesPart(facts, recipe, request.portion) ? (await findCuts(context, programme)).frames : null,
    found: await findFound(context, programme.id),
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

async function workingHardware({ engine }: Context): Promise<RatedCodec[]> {
  return workingCodecs(await engine.probeHardware());
}

async function findPortionIns(context: Context, programmeId: string): Promise<number[]> {
  return (await listPortions(context, programmeId)).map(({ inFrame }) => inFrame);
}

async function findFound(context: Context, programmeId: string): Promise<Found | null> {
  const [row] = await context.database.query<Found>(analyses.FIND_FOUND, [programmeId]);
  return row ?? null;
}
