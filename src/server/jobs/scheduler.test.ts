import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import { number, object } from 'yup';
import * as statements from '../../store/statements/jobs.ts';
import { makeContext } from '../../testing/context.ts';
import { PRIORITY, type JobHandler, type JobKind, type Lane, type OwnLane } from './job.ts';
import { enqueue, findStanding, prefer, withdraw } from './queue.ts';
import { startScheduler, type Scheduler } from './scheduler.ts';

let context: Awaited<ReturnType<typeof makeContext>>;
const running: Scheduler[] = [];

beforeAll(async () => {
  context = await makeContext(mkdtempSync(path.join(tmpdir(), 'linstock-jobs-')));
});
afterEach(async () => {
  await Promise.all(running.splice(0).map((one) => one.stop()));
  await context.database.query('DELETE FROM job');
});
afterAll(() => context.database.close());

const start = async (handlers: readonly JobHandler<object>[], name = 'one') => {
  const scheduler = await startScheduler(context, name, handlers, () => 1);
  running.push(scheduler);
  return scheduler;
};
const add = (
  kind: JobKind,
  subject: string,
  priority: number = PRIORITY[kind === 'sounding' || kind === 'batch' ? 'waitedFor' : kind],
) => enqueue(context.database.query, { kind, subject, priority });
const countJobs = async () => (await context.database.query('SELECT id FROM job')).length;

/** Notes what is done, and holds each job until it is let go. */
function recorder(kind: JobKind, lane: OwnLane, options: { holds?: boolean; yieldsTo?: JobKind[] } = {}) {
  const begun: string[] = [];
  const lanes: Lane[] = [];
  const told: string[] = [];
  let letGo: (() => void)[] = [];
  const handler: JobHandler<object> = {
    kind,
    lane,
    yieldsTo: options.yieldsTo ?? [],
    payload: object({}),
    run: async ({ subject, lane: goesIn }, signal) => {
      begun.push(subject);
      lanes.push(goesIn);
      if (options.holds) {
        await new Promise<void>((resolve, reject) => {
          letGo.push(resolve);
          signal.addEventListener('abort', () => reject(signal.reason as Error));
        });
      }
      return {
        kind: 'settled',
        write: () => Promise.resolve(),
        after: () => Promise.resolve(told.push(`after ${subject}`)),
        discard: () => Promise.resolve(told.push(`discard ${subject}`)),
      };
    },
    abandon: (subject) => ({ kind: 'settled', write: () => Promise.resolve(told.push(`abandon ${subject}`)) }),
    released: (subject) => Promise.resolve(told.push(`released ${subject}`)),
    withdrawn: (subject) => Promise.resolve(told.push(`withdrawn ${subject}`)),
  };
  const finish = () => {
    letGo.forEach((one) => one());
    letGo = [];
  };
  return { handler, begun, lanes, told, finish };
}

const until = (isSo: () => boolean | Promise<boolean>) => vi.waitUntil(isSo, { timeout: 5000, interval: 5 });

describe('the one queue', () => {
  it('does what comes first of a lane, one after another, and each once', async () => {
    const renditions = recorder('rendition', 'encode');
    for (const subject of ['a', 'b', 'c']) await add('rendition', subject);
    await start([renditions.handler]);
    await until(async () => (await countJobs()) === 0);
    expect(renditions.begun).toEqual(['a', 'b', 'c']);
    expect(renditions.told).toEqual(['after a', 'after b', 'after c']);
  });

  it('lets what a person waits for pass by a long encode, and holds the gentle back while files come in', async () => {
    const encode = recorder('rendition', 'encode', { holds: true });
    const wanted = recorder('sounding', 'waited', { holds: true });
    const look = recorder('look', 'waited', { holds: true });
    const gentle = recorder('analysis', 'gentle', { yieldsTo: ['look'] });
    await add('rendition', 'long');
    await add('look', 'batch');
    const scheduler = await start([encode.handler, wanted.handler, look.handler, gentle.handler]);
    await until(() => encode.begun.length === 1 && look.begun.length === 1);
    await add('analysis', 'film');
    await add('sounding', 'film');
    scheduler.wake();
    await until(() => wanted.begun.length === 1);
    expect([encode.told, gentle.begun]).toEqual([[], []]);
    look.finish();
    await until(() => gentle.begun.length === 1);
    wanted.finish();
    encode.finish();
  });

  it('does first what someone looks at', async () => {
    const gentle = recorder('analysis', 'gentle');
    for (const subject of ['a', 'b', 'c']) await add('analysis', subject);
    await prefer(context.database.query, 'analysis', 'c');
    expect(await findStanding(context.database.query, 'analysis', 'b')).toEqual({ isUnderway: false, ahead: 2 });
    await start([gentle.handler]);
    await until(async () => (await countJobs()) === 0);
    expect(gentle.begun).toEqual(['c', 'a', 'b']);
  });

  it('lets what someone looks at pass by what goes gently, which is as it was', async () => {
    const gentle = recorder('analysis', 'gentle', { holds: true });
    for (const subject of ['a', 'b', 'c', 'd', 'e']) await add('analysis', subject);
    const scheduler = await start([gentle.handler]);
    await until(() => gentle.begun.length === 1);
    for (const subject of ['c', 'd', 'e']) await prefer(context.database.query, 'analysis', subject);
    scheduler.wake();
    await until(() => gentle.begun.length === 3);
    expect(gentle.begun).toEqual(['a', 'e', 'd']);
    expect(gentle.lanes).toEqual(['gentle', 'watched', 'watched']);
    expect(gentle.told).toEqual([]);
    await until(async () => {
      gentle.finish();
      return (await countJobs()) === 0;
    });
  });

  it('is shared by two without doing anything twice', async () => {
    const [one, other] = [recorder('rendition', 'encode'), recorder('rendition', 'encode')];
    const subjects = Array.from({ length: 20 }, (_, index) => String(index));
    for (const subject of subjects) await add('rendition', subject);
    await Promise.all([start([one.handler], 'one'), start([other.handler], 'other')]);
    await until(async () => (await countJobs()) === 0);
    expect([...one.begun, ...other.begun].sort()).toEqual(subjects.sort());
  });
});

describe('a job', () => {
  it('that is withdrawn ends, and is cleared up after', async () => {
    const { handler, begun, told } = recorder('rendition', 'encode', { holds: true });
    await add('rendition', 'a');
    const scheduler = await start([handler]);
    await until(() => begun.length === 1);
    await withdraw(context.database.query, 'rendition', 'a');
    expect(await scheduler.end('rendition', 'a')).toBe(true);
    expect(told).toEqual(['withdrawn a']);
    expect(await scheduler.end('rendition', 'a')).toBe(false);
  });

  it('that another process withdrew ends here as well', async () => {
    const [one, other] = [recorder('rendition', 'encode', { holds: true }), recorder('analysis', 'gentle')];
    await add('rendition', 'a');
    await start([one.handler], 'one');
    const elsewhere = await start([other.handler], 'other');
    await until(() => one.begun.length === 1);
    await withdraw(context.database.query, 'rendition', 'a');
    expect(await elsewhere.end('rendition', 'a')).toBe(false);
    await until(() => one.told.includes('withdrawn a'));
  });

  it('goes back into the line when the server is stopped, and is nobody’s fault', async () => {
    const { handler, begun, told } = recorder('rendition', 'encode', { holds: true });
    await add('rendition', 'a');
    for (let round = 1; round <= 12; round += 1) {
      const scheduler = await start([handler]);
      await until(() => begun.length === round);
      await scheduler.stop();
    }
    expect(told.at(-1)).toBe('released a');
    const [row] = await context.database.query<{ lost: number; runner: string | null }>('SELECT lost, runner FROM job');
    expect(row).toEqual({ lost: 0, runner: null });
  });

  it('whose lease ran out and was taken over is not settled by the first', async () => {
    const { handler, begun, told, finish } = recorder('rendition', 'encode', { holds: true });
    await add('rendition', 'a');
    await start([handler]);
    await until(() => begun.length === 1);
    await context.database.query(`UPDATE job SET lease_until = now() - interval '1 second'`);
    const [taken] = await context.database.query<{ attempt: number }>(statements.CLAIM_JOB, [
      'two',
      60_000,
      'rendition',
      PRIORITY.analysis,
    ]);
    expect(taken?.attempt).toBe(2);
    finish();
    await until(() => told.length === 1);
    expect(told).toEqual(['discard a']);
    expect(await countJobs()).toBe(1);
  });

  it('writes nothing once it is another’s', async () => {
    let wrote: boolean | null = null;
    const { handler } = recorder('rendition', 'encode');
    await add('rendition', 'a');
    const run: JobHandler<object>['run'] = async (job, signal) => {
      await context.database.query('UPDATE job SET attempt = attempt + 1');
      wrote = await job.write(() => Promise.reject(new Error('never called')));
      signal.throwIfAborted();
      return { kind: 'settled', write: () => Promise.resolve() };
    };
    await start([{ ...handler, run }]);
    await until(() => wrote !== null);
    expect(wrote).toBe(false);
  });

  it('is tried again with what the attempt before left, and set aside after ten deaths', async () => {
    const checkpoints: unknown[] = [];
    const { handler, told } = recorder('rendition', 'encode');
    await add('rendition', 'a');
    const run: JobHandler<object>['run'] = ({ checkpoint }) => {
      checkpoints.push(checkpoint);
      const write = () => Promise.resolve();
      return Promise.resolve(
        checkpoints.length < 3
          ? { kind: 'again' as const, checkpoint: { tries: checkpoints.length }, write }
          : { kind: 'settled' as const, write },
      );
    };
    await start([{ ...handler, run }]);
    await until(async () => (await countJobs()) === 0);
    expect(checkpoints).toEqual([null, { tries: 1 }, { tries: 2 }]);
    await add('rendition', 'b');
    await context.database.query('UPDATE job SET lost = 10');
    running[0]?.wake();
    await until(async () => (await countJobs()) === 0);
    expect(told).toEqual(['abandon b']);
  });

  it('that cannot be read is not taken for another', async () => {
    const { handler, begun } = recorder('rendition', 'encode');
    await add('rendition', 'a');
    await start([{ ...handler, payload: object({ frames: number().required() }) as JobHandler<object>['payload'] }]);
    await until(async () => (await context.database.query('SELECT id FROM job WHERE attempt = 1')).length === 1);
    expect(begun).toEqual([]);
  });
});
