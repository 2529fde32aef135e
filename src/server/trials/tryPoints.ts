import { setMaxListeners } from 'node:events';
import { availableParallelism } from 'node:os';
import type { GapView } from '../../contract/trial.ts';
import { chooseExcerpts, type Excerpt } from '../../core/excerpts/chooseExcerpts.ts';
import type { CostedGroup } from '../../core/excerpts/costedGroup.ts';
import { foreseeWhole, SURE, type TriedGroup } from '../../core/excerpts/foresee.ts';
import { mostTypicalFirst } from '../../core/excerpts/mostTypicalFirst.ts';
import { USUAL_DENSITY, workOf } from '../../core/forecast/encodeWork.ts';
import { framesOf } from '../../core/plan/planPicture.ts';
import type { Portion } from '../../core/programme/facts.ts';
import { readAnalysis } from '../analysis/readAnalysis.ts';
import type { Context } from '../context.ts';
import { readClock } from '../programmes/frameTimes.ts';
import type { ProgrammeRow } from '../programmes/programmes.ts';
import { createTurns } from '../turns.ts';
import { costPictureOf, measureCosts, type KnownProgramme } from './costs.ts';
import { findMeasured, settingsKey, triedOf, type MeasuredGroup } from './measured.ts';
import { groupsToTry, type PlannedPoint, type Trial } from './trials.ts';
import { areAlike, tryGroup, type Trying } from './tryGroup.ts';

/** So many excerpts at least before a forecast is believed to be narrow enough. */
const FEWEST_TRIED = 4;

/** What is tried, and of which excerpts. */
export interface Attempted extends Pick<Trial, 'share' | 'pinned' | 'dropped'> {
  readonly points: readonly PlannedPoint[];
}

/** Who is told how it goes. */
export interface TryingReports {
  /** How much of the groups was weighed, from 0 to 1. */
  readonly weighed: (share: number) => void;
  readonly onChosen: (costs: readonly CostedGroup[], excerpts: readonly Excerpt[]) => Promise<void>;
  /** How much each point will take, against each other. */
  readonly expect: (work: readonly number[]) => void;
  readonly done: (work: number) => void;
  readonly onGap: (gap: GapView) => void;
  /** An excerpt was tried. */
  readonly write: () => Promise<void>;
}

/**
 * Encodes excerpts of a programme at each point and keeps what is measured; what was measured before is not encoded again.
 *
 * @throws When the groups cannot be weighed; a point that fails is a gap.
 */
export async function tryPoints(
  context: Context,
  programme: ProgrammeRow,
  { points, share, pinned, dropped }: Attempted,
  reports: TryingReports,
  signal: AbortSignal,
): Promise<void> {
  if (programme.fingerprint === null) throw new Error('A programme without a fingerprint cannot be tried.');
  const known: KnownProgramme = { ...programme, fingerprint: programme.fingerprint };
  const [first] = points;
  if (!first) return;
  const costPicture = costPictureOf(points.map(({ picture }) => picture));
  const costs = await measureCosts(context, known, costPicture, reports.weighed, signal);
  const most = groupsToTry(first.picture, first.plan.span.seconds, share);
  const clock = await readClock(context, programme);
  const { empty, sceneStarts } = await readSigns(context, programme.id);
  const frames = framesOf(first.picture, clock);
  const { inFrame } = first.picture.from;
  const placed = (spans: readonly Portion[]) =>
    spans.map((span) => placeSpan(span, (at) => inFrame + frames.toResult(at)));
  const excerpts = chooseExcerpts(costs, {
    most,
    pinned: placed(pinned),
    dropped: placed(dropped),
    empty: placed(empty),
    sceneStarts: sceneStarts.map((start) => inFrame + frames.toResult(start)),
  });
  await reports.onChosen(
    costs.map((group) => showGroup(group, (at) => frames.toSource(at - inFrame))),
    excerpts,
  );
  // Each unit that waits listens for the end; that many are no leak.
  setMaxListeners(0, signal);
  reports.expect(points.map((point) => workOfPoint(point) * excerpts.length));
  const keys = points.map(({ picture, quality }) => settingsKey(picture, quality));
  const measured = await findMeasured(context, known.fingerprint, keys);
  const attempts = points.map((point, index): Attempt => ({
    point,
    trying: { programme: known, clock, plan: point.plan, picture: point.picture, quality: point.quality },
    there: measured.get(keys[index]!) ?? [],
    known: [],
    hasFailed: false,
  }));
  const inTurn = mostTypicalFirst(costs, excerpts);
  const units = setsOf(attempts).flatMap((set) =>
    inTurn.map(
      ({ group }) =>
        () =>
          tryExcerpt(context, set, { group, costs }, reports, signal),
    ),
  );
  // With all cores to itself the first is through in half the time: then there is an answer, if a rough one.
  const [opening, ...others] = units;
  await opening?.();
  const turns = createTurns(availableParallelism());
  const ends = await Promise.allSettled(others.map((unit) => turns.take(unit, signal)));
  // Not before the last of them has ended, also when it is stopped: a server that goes must leave no encoder behind.
  signal.throwIfAborted();
  for (const end of ends) if (end.status === 'rejected') throw end.reason;
}

/** A point on its way. */
interface Attempt {
  readonly point: PlannedPoint;
  readonly trying: Trying;
  /** What is known of it from before. */
  readonly there: readonly MeasuredGroup[];
  /** What is known of its excerpts. */
  readonly known: TriedGroup[];
  hasFailed: boolean;
}

/** Encoders that work at once hold their frames in memory: so many of 720 lines. */
const MOST_PIXELS = 6 * 1280 * 720;

/**
 * Points that are tried in one decode; the order's own codec before the others, which may take many times as long: there is an
 * answer to go by once it is through.
 */
export function setsOf<One extends { readonly point: PlannedPoint }>(attempts: readonly One[]): One[][] {
  const sets: One[][] = [];
  for (const attempt of attempts) {
    const own = pixels(attempt.point);
    const set = sets.find(
      (one) =>
        areAlike(one[0]!.point.picture, attempt.point.picture) &&
        one.reduce((sum, { point }) => sum + pixels(point), own) <= MOST_PIXELS,
    );
    if (set) set.push(attempt);
    else sets.push([attempt]);
  }
  const codecs = [...new Set(attempts.map(({ point }) => point.codec))];
  const placeOf = ([first]: readonly One[]) => codecs.indexOf(first!.point.codec);
  return sets.toSorted((a, b) => placeOf(a) - placeOf(b));
}

/** Tries one excerpt at the points of a set; one whose forecast is narrow enough needs no more. */
async function tryExcerpt(
  context: Context,
  set: readonly Attempt[],
  { group, costs }: { readonly group: number; readonly costs: readonly CostedGroup[] },
  reports: TryingReports,
  signal: AbortSignal,
): Promise<void> {
  const { inFrame, frameCount } = costs[group]!;
  const open = set.filter(({ known, hasFailed }) => !hasFailed && !isNarrow(costs, known));
  const left = open.filter((attempt) => {
    const there = attempt.there.find((one) => one.inFrame === inFrame && one.frameCount === frameCount && one.frames);
    if (there) attempt.known.push(triedOf(group, there));
    return !there;
  });
  const encode = async (attempts: readonly Attempt[]) => {
    const ways = attempts.map(({ trying }) => trying);
    const found = await tryGroup(context, ways, costs[group]!, signal);
    attempts.forEach(({ known }, index) => known.push(triedOf(group, found[index]!)));
  };
  await encode(left).catch(async () => {
    signal.throwIfAborted();
    // Which of them it was is seen when each goes by itself.
    for (const attempt of left) {
      await encode([attempt]).catch((error: unknown) => {
        signal.throwIfAborted();
        attempt.hasFailed = true;
        context.logger.warn({ programme: attempt.trying.programme.id, err: error }, 'a point was not tried');
        const { codec, width, height, quality } = attempt.point;
        reports.onGap({ codec, width, height, quality, reason: (error as Error).message });
      });
    }
  });
  set.forEach(({ point }) => reports.done(workOfPoint(point)));
  await reports.write();
}

/** Error bars of this share to either side need no more excerpts. */
const NARROW_ENOUGH = 0.02;

function isNarrow(costs: readonly CostedGroup[], known: readonly TriedGroup[]): boolean {
  return known.length >= FEWEST_TRIED && foreseeWhole(costs, known).error * SURE < NARROW_ENOUGH;
}

function placeSpan({ inFrame, outFrame }: Portion, placeOf: (frame: number) => number): Portion {
  return { inFrame: placeOf(inFrame), outFrame: placeOf(outFrame + 1) - 1 };
}

/** A group by the programme's frames that it shows. */
function showGroup(group: CostedGroup, sourceOf: (frame: number) => number): CostedGroup {
  const inFrame = sourceOf(group.inFrame);
  return { ...group, inFrame, frameCount: sourceOf(group.inFrame + group.frameCount - 1) - inFrame + 1 };
}

function pixels({ picture }: Pick<PlannedPoint, 'picture'>): number {
  return picture.out.size.width * picture.out.size.height;
}

/** What a point takes against others, a frame of each: a slow codec's last points are most of the work that is left. */
function workOfPoint({ picture }: PlannedPoint): number {
  const { codec, effort } = picture.do;
  const kind = { codec, effort, way: 'once' } as const;
  return workOf(kind, { own: pixels({ picture }), masters: 0 }, USUAL_DENSITY);
}

/** Where nothing is to be seen, and where scenes begin. */
async function readSigns(context: Context, programmeId: string) {
  const findings = (await readAnalysis(context, programmeId))?.findings ?? null;
  return {
    empty: [...(findings?.black ?? []), ...(findings?.frozen ?? [])],
    sceneStarts: findings?.sceneChanges ?? [],
  };
}
