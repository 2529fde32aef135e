import { availableParallelism } from 'node:os';
import { object } from 'yup';
import type { GapView } from '../../contract/trial.ts';
import type { Problem } from '../../contract/views.ts';
import type { Findings } from '../../core/analysis/conclude.ts';
import { chooseExcerpts, type Excerpt } from '../../core/excerpts/chooseExcerpts.ts';
import { shareOut, type CostedGroup } from '../../core/excerpts/costedGroup.ts';
import { foreseeWhole, SURE, type TriedGroup } from '../../core/excerpts/foresee.ts';
import * as analyses from '../../store/statements/analyses.ts';
import * as statements from '../../store/statements/trials.ts';
import { tidy } from '../cache/diskCache.ts';
import type { Context } from '../context.ts';
import type { Job, JobHandler, Settlement } from '../jobs/job.ts';
import { readClock } from '../programmes/frameTimes.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';
import { createTurns } from '../turns.ts';
import { costPictureOf, measureCosts, type KnownProgramme } from './costs.ts';
import { findMeasured, settingsKey, triedOf, type MeasuredGroup } from './measured.ts';
import { findTrial, groupsToTry, planPoints, type PlannedPoint, type StoredExcerpt, type Trial } from './trials.ts';
import { triedFolder, tryGroup } from './tryGroup.ts';

/** Tried groups that are kept for their pictures; the least recently made go first. */
const CACHE_LIMIT_BYTES = 2_000_000_000;

/** So many excerpts at least before a forecast is believed to be narrow enough. */
const FEWEST_TRIED = 4;

const LOST_TOO_OFTEN: Problem = {
  code: 'given-up',
  message: 'The server ended ten times during this trial, so it was set aside. Start it again.',
};

/** The costs of the groups take about so much of a trial's time. */
const SHARE_OF_COSTS = 0.15;

/** Carries trials out: excerpts of a programme at each point of a grid. */
export function createTrialHandler(context: Context): JobHandler<object> {
  const tell = (programmeId: string) => context.events.publish({ type: 'trial', programmeId });
  const ended = (id: string, programmeId: string, end: TrialEnd): Settlement => ({
    kind: 'settled',
    write: (query) =>
      query(statements.END_TRIAL, [
        id,
        end.problem ? 'failed' : 'done',
        end.problem ? JSON.stringify(end.problem) : null,
        end.gaps && JSON.stringify(end.gaps),
        end.seconds,
        context.now(),
      ]),
    after: () => Promise.resolve(tell(programmeId)),
  });
  return {
    kind: 'trial',
    lane: 'trial',
    yieldsTo: [],
    payload: object({}),
    run: async (job, signal) => {
      const trial = await findTrial(context, job.subject);
      await job.write((query) => query(statements.BEGIN_TRIAL, [trial.id]));
      tell(trial.programme_id);
      const began = context.now().getTime();
      try {
        const gaps = await carryOut(context, job, trial, () => tell(trial.programme_id), signal);
        return ended(trial.id, trial.programme_id, { gaps, seconds: (context.now().getTime() - began) / 1000 });
      } catch (error) {
        signal.throwIfAborted();
        context.logger.warn({ trial: trial.id, err: error }, 'a trial failed');
        return ended(trial.id, trial.programme_id, { problem: explain(error), gaps: null, seconds: null });
      } finally {
        await tidy(triedFolder(context), CACHE_LIMIT_BYTES);
      }
    },
    abandon: (id) => ({
      kind: 'settled',
      write: (query) =>
        query(statements.END_TRIAL, [id, 'failed', JSON.stringify(LOST_TOO_OFTEN), null, null, context.now()]),
    }),
    released: (id, query) => query(statements.REQUEUE_TRIAL, [id]),
  };
}

interface TrialEnd {
  readonly problem?: Problem;
  readonly gaps: readonly GapView[] | null;
  readonly seconds: number | null;
}

function explain(error: unknown): Problem {
  if (isRefusal(error)) return { code: error.code, message: error.message };
  return { code: 'trial-failed', message: 'The trial could not be carried out; the master may be damaged.' };
}

async function carryOut(
  context: Context,
  job: Job<object>,
  trial: Trial,
  tell: () => void,
  signal: AbortSignal,
): Promise<GapView[]> {
  const programme = await findProgramme(context, trial.programme_id);
  if (programme.fingerprint === null) throw new Error('A programme without a fingerprint cannot be tried.');
  const known: KnownProgramme = { ...programme, fingerprint: programme.fingerprint };
  const { points, gaps } = await planPoints(context, programme, trial);
  const [first] = points;
  if (!first) return gaps;
  const report = createReports(context, job, trial.id, gaps, tell);
  const costs = await measureCosts(
    context,
    known,
    costPictureOf(points.map(({ picture }) => picture)),
    (fraction) => report.at(fraction * SHARE_OF_COSTS),
    signal,
  );
  const excerpts = await choose(
    context,
    trial,
    programme.id,
    costs,
    groupsToTry(programme, first.picture, first.plan.span.seconds, trial.share),
  );
  await job.write((query) =>
    query(statements.CHOOSE_EXCERPTS, [trial.id, JSON.stringify(storeExcerpts(costs, excerpts))]),
  );
  tell();
  const clock = await readClock(context, programme);
  const turns = createTurns(availableParallelism());
  report.expect(points.map((point) => pixels(point) * excerpts.length));
  const measured = await findMeasured(
    context,
    known.fingerprint,
    points.map(({ picture, quality }) => settingsKey(picture, quality)),
  );
  await Promise.all(
    points.map((point) =>
      turns.take(async () => {
        const trying = { programme: known, clock, plan: point.plan, picture: point.picture, quality: point.quality };
        const tried = measured.get(settingsKey(point.picture, point.quality)) ?? [];
        try {
          await tryPoint(
            { costs, excerpts, tried },
            (group) => tryGroup(context, trying, group, signal),
            (share) => report.done(pixels(point), share),
          );
        } catch (error) {
          signal.throwIfAborted();
          context.logger.warn({ trial: trial.id, err: error }, 'a point was not tried');
          const { codec, width, height, quality } = point;
          gaps.push({ codec, width, height, quality, reason: (error as Error).message });
        }
        await report.write();
      }, signal),
    ),
  );
  signal.throwIfAborted();
  return gaps;
}

function pixels({ picture }: PlannedPoint): number {
  return picture.out.size.width * picture.out.size.height;
}

interface PointWork {
  readonly costs: readonly CostedGroup[];
  readonly excerpts: readonly Excerpt[];
  /** What is known of this point already. */
  readonly tried: readonly MeasuredGroup[];
}

/** Tries one excerpt after another until the forecast is narrow enough, or there is none left. */
async function tryPoint(
  { costs, excerpts, tried }: PointWork,
  encode: (group: CostedGroup) => Promise<MeasuredGroup>,
  onDone: (excerpts: number) => void,
): Promise<void> {
  const known: TriedGroup[] = [];
  for (const [index, { group }] of excerpts.entries()) {
    const { inFrame, frameCount } = costs[group]!;
    const there = tried.find((one) => one.inFrame === inFrame && one.frameCount === frameCount && one.frames);
    const found = there ?? (await encode(costs[group]!));
    known.push(triedOf(group, found));
    onDone(1);
    if (known.length >= FEWEST_TRIED && foreseeWhole(costs, known).error * SURE < NARROW_ENOUGH) {
      onDone(excerpts.length - index - 1);
      return;
    }
  }
}

/** Error bars of this share to either side need no more excerpts. */
const NARROW_ENOUGH = 0.02;

async function choose(
  context: Context,
  trial: Trial,
  programmeId: string,
  costs: readonly CostedGroup[],
  most: number,
): Promise<Excerpt[]> {
  const [row] = await context.database.query<{ findings: Findings | null }>(analyses.FIND_ANALYSIS, [programmeId]);
  const findings = row?.findings ?? null;
  return chooseExcerpts(costs, {
    most,
    pinned: trial.pinned,
    dropped: trial.dropped,
    empty: [...(findings?.black ?? []), ...(findings?.frozen ?? [])],
    sceneStarts: findings?.sceneChanges ?? [],
  });
}

function storeExcerpts(costs: readonly CostedGroup[], excerpts: readonly Excerpt[]): StoredExcerpt[] {
  const members = shareOut(
    costs,
    excerpts.map(({ group }) => group),
  );
  const frames = costs.reduce((sum, { frameCount }) => sum + frameCount, 0);
  return excerpts.map(({ group, reason }) => {
    const { inFrame, frameCount } = costs[group]!;
    const stands = members.get(group)!.reduce((sum, member) => sum + costs[member]!.frameCount, 0);
    return { inFrame, frameCount, weight: stands / frames, reason };
  });
}

const REPORT_EVERY_MS = 1000;

/** How far a trial is, told now and then. */
function createReports(context: Context, job: Job<object>, id: string, gaps: readonly GapView[], tell: () => void) {
  let fraction = 0;
  let total = 0;
  let done = 0;
  let toldAt = 0;
  const began = context.now().getTime();
  const write = async () => {
    toldAt = context.now().getTime();
    const elapsed = (toldAt - began) / 1000;
    const left = fraction > 0.02 ? (elapsed * (1 - fraction)) / fraction : null;
    await job.write((query) => query(statements.TRIAL_PROGRESS, [id, fraction, left, JSON.stringify(gaps)]));
    tell();
  };
  const now = () => {
    if (context.now().getTime() - toldAt < REPORT_EVERY_MS) return;
    write().catch((error: unknown) => context.logger.warn({ err: error }, 'where a trial stands was not written'));
  };
  return {
    write,
    at: (share: number) => {
      fraction = share;
      now();
    },
    expect: (work: readonly number[]) => {
      total = work.reduce((sum, one) => sum + one, 0);
    },
    done: (pixels: number, excerpts: number) => {
      done += pixels * excerpts;
      fraction = SHARE_OF_COSTS + (1 - SHARE_OF_COSTS) * Math.min(1, done / Math.max(1, total));
      now();
    },
  };
}
