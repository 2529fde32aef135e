import { object } from 'yup';
import type { GapView } from '../../contract/trial.ts';
import type { Problem } from '../../contract/views.ts';
import type { Excerpt } from '../../core/excerpts/chooseExcerpts.ts';
import { shareOut, type CostedGroup } from '../../core/excerpts/costedGroup.ts';
import * as statements from '../../store/statements/trials.ts';
import { tidy } from '../cache/diskCache.ts';
import type { Context } from '../context.ts';
import type { Job, JobHandler, Settlement } from '../jobs/job.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { isRefusal } from '../refusal.ts';
import { secondsLeft } from '../runner/progress.ts';
import { foreseeTrial, type TrialTime } from './planTrial.ts';
import { findTrial, planPoints, type StoredExcerpt, type Trial } from './trials.ts';
import { triedFolder } from './tryGroup.ts';
import { tryPoints } from './tryPoints.ts';

/** Tried groups that are kept for their pictures; the least recently made go first. */
const CACHE_LIMIT_BYTES = 2_000_000_000;

const LOST_TOO_OFTEN: Problem = {
  code: 'given-up',
  message: 'The server ended ten times during this trial, so it was set aside. Start it again.',
};

/** Weighing the groups takes about so much of a trial's time, where nothing is known of this machine. */
const USUAL_SHARE_OF_WEIGHING = 0.15;

/** Carries trials out: excerpts of a programme at each point of a grid. */
export function createTrialHandler(context: Context): JobHandler<object> {
  const tell = (programmeId: string, hasEnded = false) =>
    context.events.publish({ type: 'trial', programmeId, hasEnded });
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
    after: () => Promise.resolve(tell(programmeId, true)),
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
  const { points, gaps } = await planPoints(context, programme, trial);
  const foreseen = await foreseeTrial(context, programme, points, trial.share);
  const report = createReports(context, job, { id: trial.id, gaps, foreseen, tell });
  const onChosen = async (costs: readonly CostedGroup[], excerpts: readonly Excerpt[]) => {
    const chosen = JSON.stringify(storeExcerpts(costs, excerpts));
    await job.write((query) => query(statements.CHOOSE_EXCERPTS, [trial.id, chosen]));
    tell();
  };
  const onGap = (gap: GapView) => void gaps.push(gap);
  await tryPoints(context, programme, { ...trial, points }, { ...report, onChosen, onGap }, signal);
  return gaps;
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

/** What is told of a trial on its way, and to whom. */
interface Reported {
  readonly id: string;
  readonly gaps: readonly GapView[];
  readonly foreseen: TrialTime | null;
  readonly tell: () => void;
}

/** How far a trial is, told now and then. */
function createReports(context: Context, job: Job<object>, { id, gaps, foreseen, tell }: Reported) {
  const expected = foreseen && foreseen.weighing + foreseen.trying;
  const weighing = foreseen && expected ? foreseen.weighing / expected : USUAL_SHARE_OF_WEIGHING;
  let fraction = 0;
  let total = 0;
  let done = 0;
  let toldAt = 0;
  const began = context.now().getTime();
  const write = async () => {
    toldAt = context.now().getTime();
    const elapsed = (toldAt - began) / 1000;
    const left = secondsLeft(fraction, elapsed, expected);
    await job.write((query) => query(statements.TRIAL_PROGRESS, [id, fraction, left, JSON.stringify(gaps)]));
    tell();
  };
  const now = () => {
    if (context.now().getTime() - toldAt < REPORT_EVERY_MS) return;
    write().catch((error: unknown) => context.logger.warn({ err: error }, 'where a trial stands was not written'));
  };
  return {
    write,
    weighed: (share: number) => {
      fraction = share * weighing;
      now();
    },
    expect: (work: readonly number[]) => {
      total = work.reduce((sum, one) => sum + one, 0);
    },
    done: (work: number) => {
      done += work;
      fraction = weighing + (1 - weighing) * Math.min(1, done / Math.max(1, total));
      now();
    },
  };
}
