import type { NamedPlace, ScaleRequest, ScaleView } from '../../contract/trial.ts';
import { foreseeWhole, SURE, type Foreseen, type TriedGroup } from '../../core/excerpts/foresee.ts';
import { foreseeSeconds, speedsOf, type MachineSpeeds } from '../../core/forecast/encodeTime.ts';
import { barOf, type Outcome } from '../../core/forecast/outcomes.ts';
import { isSamePortion } from '../../core/programme/facts.ts';
import type { Measure } from '../../core/quality/closerLook.ts';
import { mseToPsnr, ssimToDecibels } from '../../core/quality/frameQuality.ts';
import { bestUnder, kneeOf } from '../../core/scale/best.ts';
import { withForecasts } from '../../core/scale/between.ts';
import { inOrder, type ScaleCurve, type ScalePoint } from '../../core/scale/curve.ts';
import { explainBest, explainKnee } from '../../core/scale/explain.ts';
import { isRated, RATED, type RatedCodec } from '../../core/video/codecs.ts';
import { comparePeak } from '../../engine/arguments/compare.ts';
import { readRecipe } from '../../contract/stored/recipe.ts';
import { nameTreatment } from '../../core/recipe/describeRecipe.ts';
import { ratedVideo } from '../../core/recipe/recipe.ts';
import * as renditions from '../../store/statements/renditions.ts';
import * as statements from '../../store/statements/trials.ts';
import type { Context } from '../context.ts';
import { writeCsv } from '../csv.ts';
import { viewSpeeds } from '../forecast/speeds.ts';
import { findProgramme } from '../programmes/programmes.ts';
import type { SummaryRow } from '../renditions/renditionRow.ts';
import { costPictureOf, findCosts, groupsOf, type KnownProgramme } from './costs.ts';
import { findMeasured, settingsKey, triedOf, type MeasuredGroup } from './measured.ts';
import { planPoints, trialsOf, type PlannedPoint, type Trial } from './trials.ts';

/** Size against quality of a programme, of its latest trials and what was made of it. */
export async function viewScale(context: Context, programmeId: string, request: ScaleRequest): Promise<ScaleView> {
  const { capBytes, measure } = request;
  const [latest] = await trialsOf(context, programmeId);
  const foreseen = latest ? await foreseePoints(context, programmeId, latest) : [];
  const outcomes = await readOutcomes(context, new Set(foreseen.map(({ point }) => point.codec)));
  const triedCurves = curvesOf(foreseen, measure, outcomes, speedsOf(programmeId, await viewSpeeds(context)));
  const made = await madeOf(context, programmeId, latest ?? null, measure);
  const foreseenBetween = triedCurves.map((curve) => withForecasts(curve, RATED[curve.codec].quality.step));
  const curves = addMade(foreseenBetween, made);
  const best = capBytes === undefined ? null : bestUnder(triedCurves, capBytes);
  const knee = kneeOf(triedCurves);
  return {
    measure,
    portion: latest?.portion ?? null,
    trialId: latest?.id ?? null,
    curves,
    best: best && { ...best.place, reason: explainBest(best, capBytes!) },
    knee: knee && named(knee, explainKnee(knee)),
    results: Object.fromEntries([...outcomes].map(([codec, list]) => [codec, list.length])),
  };
}

const COLUMNS = ['codec', 'width', 'height', 'effort', 'quality', 'kind', 'bytes', 'low', 'high', 'decibels'] as const;

/** The same points as lines. */
export async function scaleCsv(context: Context, programmeId: string, request: ScaleRequest): Promise<string> {
  const { curves } = await viewScale(context, programmeId, request);
  const lines = curves.flatMap(({ codec, width, height, effort = '', points }) =>
    points.map(
      ({ quality, kind, bytes, low, high, value }) =>
        [codec, width, height, effort, quality, kind, bytes, low, high, value.toFixed(4)] as const,
    ),
  );
  return writeCsv([COLUMNS, ...lines]);
}

function named(place: Omit<NamedPlace, 'reason'>, reason: string): NamedPlace {
  return { ...place, reason };
}

/** A point with what its excerpts say of the whole. */
export interface ForeseenPoint {
  readonly point: PlannedPoint;
  readonly foreseen: Foreseen;
}

/** What is foreseen of each point of a trial of which something was measured. */
export async function foreseePoints(
  context: Context,
  programmeId: string,
  trial: Pick<Trial, 'recipe' | 'grid' | 'portion'>,
): Promise<ForeseenPoint[]> {
  const programme = await findProgramme(context, programmeId);
  if (programme.fingerprint === null) return [];
  const known: KnownProgramme = { ...programme, fingerprint: programme.fingerprint };
  const { points } = await planPoints(context, programme, trial);
  if (points.length === 0) return [];
  const costs = await findCosts(context, known, costPictureOf(points.map(({ picture }) => picture)));
  if (!costs) return [];
  const keys = points.map(({ picture, quality }) => settingsKey(picture, quality));
  const measured = await findMeasured(context, known.fingerprint, keys);
  return points.flatMap((point, index) => {
    const tried = pairWithGroups(point, measured.get(keys[index]!) ?? []);
    return tried.length === 0 ? [] : [{ point, foreseen: foreseeWhole(costs, tried) }];
  });
}

function pairWithGroups({ picture }: PlannedPoint, measured: readonly MeasuredGroup[]): TriedGroup[] {
  return groupsOf(picture).flatMap(({ inFrame, frameCount }, group) => {
    const there = measured.find((one) => one.inFrame === inFrame && one.frameCount === frameCount);
    return there?.frames ? [triedOf(group, there)] : [];
  });
}

/** Curves of SSIM over the sizes of a grid, as far as it was measured. */
export async function foreseenCurves(
  context: Context,
  programmeId: string,
  tried: Pick<Trial, 'recipe' | 'grid' | 'portion'>,
): Promise<ScaleCurve[]> {
  return curvesOf(await foreseePoints(context, programmeId, tried), 'ssim', new Map());
}

type Outcomes = ReadonlyMap<RatedCodec, readonly Outcome[]>;

/** What forecasts of some codecs came to. */
export async function readOutcomes({ database }: Context, codecs: ReadonlySet<RatedCodec>): Promise<Outcomes> {
  const found = new Map<RatedCodec, readonly Outcome[]>();
  for (const codec of codecs) {
    found.set(codec, await database.query<Outcome & Record<string, unknown>>(statements.OUTCOMES_OF, [codec]));
  }
  return found;
}

/** Points as curves, one for each codec and frame size. */
export function curvesOf(
  foreseen: readonly ForeseenPoint[],
  measure: Measure,
  outcomes: Outcomes,
  speeds: MachineSpeeds | null = null,
): ScaleCurve[] {
  const workOf = ({ plan }: PlannedPoint) => (speeds && foreseeSeconds(plan, speeds)?.likely) ?? null;
  const curves = new Map<string, { head: Omit<ScaleCurve, 'points'>; points: ScalePoint[] }>();
  for (const one of foreseen) {
    const { codec, width, height, effort, quality } = one.point;
    const key = `${codec} ${width} ${height} ${effort ?? ''}`;
    const curve = curves.get(key) ?? {
      head: { codec, width, height, ...(effort ? { effort } : {}), workSeconds: workOf(one.point) },
      points: [],
    };
    curves.set(key, curve);
    const value = valueOf(one, measure, 'mean');
    if (value === null) continue;
    const weigh = wholeFile(one.point);
    const bar = barOf(one.foreseen.error * SURE, outcomes.get(codec) ?? []);
    curve.points.push({
      quality,
      bytes: weigh(one.foreseen.bytes),
      low: weigh(one.foreseen.bytes * Math.exp(-bar)),
      high: weigh(one.foreseen.bytes * Math.exp(bar)),
      value,
      tail: valueOf(one, measure, 'worstTwentieth'),
      kind: 'tried',
    });
  }
  return [...curves.values()].map(({ head, points }) => ({ ...head, points: inOrder(points) }));
}

/** In decibels; null where it was not measured. */
function valueOf(
  { foreseen: { ssimLoss, mse, weightedMse }, point }: ForeseenPoint,
  measure: Measure,
  of: 'mean' | 'worstTwentieth',
): number | null {
  if (measure === 'ssim') return ssimToDecibels(1 - ssimLoss[of]);
  const error = measure === 'psnr' ? mse : weightedMse;
  return error && mseToPsnr(error[of], comparePeak(point.picture));
}

/** The whole file with so many bytes of picture; sound and container as the plan foresees them. */
export function wholeFile({ plan }: Pick<PlannedPoint, 'plan'>): (pictureBytes: number) => number {
  const { audio, container } = plan.budget.split;
  return (picture) => Math.round(picture + audio + container);
}

interface Made {
  readonly codec: RatedCodec;
  readonly width: number;
  readonly height: number;
  readonly point: ScalePoint;
}

/** Renditions that are done, of the same frames, treated alike. @param trial - null takes those of the whole, however treated. */
async function madeOf(
  { database }: Context,
  programmeId: string,
  trial: Pick<Trial, 'portion' | 'recipe'> | null,
  measure: Measure,
): Promise<Made[]> {
  const rows = await database.query<SummaryRow & Record<string, unknown>>(renditions.DONE_OF_PROGRAMME, [programmeId]);
  const treatment = trial && nameTreatment(trial.recipe);
  return rows.flatMap(({ outline, bytes, quality, portion: own, recipe }) => {
    const { codec, width, height } = outline;
    if (!codec || !width || !height || codec === 'copy' || !isRated(codec) || bytes === null || !quality) return [];
    if (!isSamePortion(own, trial?.portion ?? null)) return [];
    const ordered = readRecipe(recipe);
    if (treatment !== null && nameTreatment(ordered) !== treatment) return [];
    const rate = ratedVideo(ordered)?.rate;
    const pooled = quality.closer?.pooled[measure];
    // Results of before were not looked at as closely.
    const value = { ssim: quality.ssim.meanDb, psnr: quality.psnr.mean, xpsnr: pooled?.mean }[measure];
    if (value === undefined) return [];
    const tail = pooled?.fifth ?? null;
    const point = {
      quality: rate?.mode === 'quality' ? rate.value : 0,
      bytes,
      low: bytes,
      high: bytes,
      value,
      tail,
      kind: 'rendition' as const,
    };
    return [{ codec, width, height, point }];
  });
}

/** Renditions stand on the curve of their codec and frame size, or on one of their own. */
function addMade(curves: readonly ScaleCurve[], made: readonly Made[]): ScaleCurve[] {
  const all = curves.map((curve) => ({ ...curve, points: [...curve.points] }));
  for (const { codec, width, height, point } of made) {
    let curve = all.find((one) => one.codec === codec && one.width === width && one.height === height && !one.effort);
    if (!curve) all.push((curve = { codec, width, height, workSeconds: null, points: [] }));
    curve.points.push(point);
  }
  return all;
}
