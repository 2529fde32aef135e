import type { TrialPlan, TrialRequest } from '../../contract/trial.ts';
import { speedsOf } from '../../core/forecast/encodeTime.ts';
import { UNIT } from '../../core/forecast/encodeWork.ts';
import { foreseeStretches, type StretchesWork } from '../../core/forecast/trialTime.ts';
import { WEIGHED_AT } from '../../engine/arguments/quickGroups.ts';
import type { Context } from '../context.ts';
import { viewSpeeds } from '../forecast/speeds.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { costPictureOf, framesToWeigh, groupsOf } from './costs.ts';
import { findMeasured, settingsKey } from './measured.ts';
import { surround } from './surround.ts';
import { gridOf, groupsToTry, planPoints, requirePicture, triedSeconds, type PlannedPoint } from './trials.ts';
import { setsOf } from './tryPoints.ts';

/** What a trial would be, before it is asked for. */
export async function planTrial(context: Context, request: TrialRequest): Promise<TrialPlan> {
  const programme = await requirePicture(context, request.programmeId);
  const grid = gridOf(context, programme, request);
  const { points, gaps } = await planPoints(context, programme, { ...request, grid });
  const foreseen = await foreseeTrial(context, programme, points, request.share);
  const span = points[0]?.plan.span.seconds ?? 0;
  const excerptSeconds = triedSeconds(span, request.share);
  return {
    grid,
    points: points.length,
    excerptSeconds,
    workSeconds: foreseen && foreseen.weighing + foreseen.trying,
    gaps,
  };
}

/** Seconds that a trial takes. */
export interface TrialTime {
  /** Until its groups are told apart. */
  readonly weighing: number;
  readonly trying: number;
}

/**
 * Seconds that trying points takes, apart from what was measured before.
 *
 * @returns null while nothing was finished here that would tell.
 */
export async function foreseeTrial(
  context: Context,
  programme: ProgrammeRow,
  points: readonly PlannedPoint[],
  share: number,
): Promise<TrialTime | null> {
  const [first] = points;
  const { fingerprint } = programme;
  if (!first || fingerprint === null) return null;
  const told = costPictureOf(points.map(({ picture }) => picture));
  const frames = await framesToWeigh(context, { ...programme, fingerprint }, told);
  const area = pixels(told.out.size);
  const ways = Array.from({ length: WEIGHED_AT.length }, () => area);
  const weighed = { kind: UNIT, ways, masters: area, framesEncoded: frames, framesCompared: frames };
  const work: StretchesWork[] = [{ ...weighed, stretches: frames > 0 ? 1 : 0 }];
  const keys = points.map(({ picture, quality }) => settingsKey(picture, quality));
  const measured = await findMeasured(context, fingerprint, keys);
  const isKnown = (key: string) => (measured.get(key) ?? []).filter((group) => group.frames).length;
  const open = points.map((point, index) => ({ point, known: isKnown(keys[index]!) }));
  for (const set of setsOf(open)) {
    const { picture, plan, codec } = set[0]!.point;
    const groups = groupsOf(picture);
    const excerpts = Math.min(groups.length, groupsToTry(picture, plan.span.seconds, share));
    const { inFrame, frameCount } = groups[Math.floor((groups.length - 1) / 2)]!;
    const { effort } = picture.do;
    work.push({
      kind: { codec, effort, way: 'once' },
      ways: set.filter(({ known }) => known < excerpts).map(({ point }) => pixels(point)),
      masters: pixels(picture.comparedAt),
      stretches: excerpts,
      framesEncoded: surround(picture, inFrame, frameCount).span.count,
      framesCompared: frameCount,
    });
  }
  const speeds = speedsOf(programme.id, await viewSpeeds(context));
  const [weighing = null, ...sets] = work.map((one) => foreseeStretches(one, speeds));
  if (weighing === null || sets.includes(null)) return null;
  return { weighing, trying: sets.reduce<number>((sum, one) => sum + (one ?? 0), 0) };
}

function pixels({ width, height }: { readonly width: number; readonly height: number }): number {
  return width * height;
}
