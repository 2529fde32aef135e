import { mkdirSync, mkdtempSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterEach, describe, expect, it, vi } from 'vitest';
import type { RenditionRequest } from '../../contract/recipe.ts';
import { STARTING_RECIPE } from '../../core/recipe/recipe.ts';
import type { Engine } from '../../engine/engine.ts';
import { EngineError } from '../../engine/engineError.ts';
import type { Database } from '../../store/database.ts';
import * as jobs from '../../store/statements/jobs.ts';
import * as statements from '../../store/statements/renditions.ts';
import { makeContext } from '../../testing/context.ts';
import { soundFactsOf } from '../../testing/facts.ts';
import { takeIn } from '../programmes/programmes.ts';
import { getRendition, orderRendition, stopRendition } from '../renditions/renditions.ts';
import { clearUp } from './runRendition.ts';
import { createHold } from '../../engine/process/hold.ts';
import { PRIORITY } from '../jobs/job.ts';
import { startScheduler, type Scheduler } from '../jobs/scheduler.ts';
import { createRenditionHandler } from './renditionJob.ts';

const NOBODY_HOLDS = { begin: () => ({ hold: createHold(), end: () => undefined }) };

const runners: Scheduler[] = [];
afterEach(() => Promise.all(runners.splice(0).map((runner) => runner.stop())));

/** A queue of sound-only orders on an engine that writes a word instead of sound. */
async function prepare(encodeSounds: Engine['encodeSounds'], wrap: (database: Database) => Database = (one) => one) {
  const folder = mkdtempSync(path.join(tmpdir(), 'linstock-attempts-'));
  mkdirSync(path.join(folder, 'media'));
  const master = path.join(folder, 'media', 'guide.wav');
  writeFileSync(master, 'a guide');
  const made = await makeContext(folder, {
    encodeSounds,
    probe: () =>
      Promise.resolve({ facts: soundFactsOf({ bytes: statSync(master).size }), frameTimes: null, spent: [], raw: {} }),
    inspect: () => Promise.resolve({ report: { streams: [], format: {} }, tallies: new Map() }),
  });
  const context = { ...made, database: wrap(made.database) };
  const programme = await takeIn(context, master);
  const order = (): Promise<{ id: string }> => {
    const recipe: RenditionRequest['recipe'] = { ...STARTING_RECIPE, video: null };
    return orderRendition(context, { programmeId: programme.id, recipe, portion: null, name: null, keepFailed: false });
  };
  const start = async (name = 'one') => {
    const runner = await startScheduler(context, name, [createRenditionHandler(context, NOBODY_HOLDS)], () => 1);
    runners.push(runner);
    return runner;
  };
  const ended = (id: string) =>
    vi.waitUntil(
      async () => {
        const rendition = await getRendition(context, id);
        return ['done', 'failed', 'stopped'].includes(rendition.state) && rendition;
      },
      { timeout: 20_000, interval: 20 },
    );
  return { folder, context, order, start, ended, output: path.join(folder, 'out') };
}

const write: Engine['encodeSounds'] = ({ output }) => {
  writeFileSync(output, 'encoded');
  return Promise.resolve();
};
const killed = () => Promise.reject(new EngineError('engine-killed', 'The engine was ended from outside (SIGKILL).'));

describe('an encoder that was killed', () => {
  it('is tried once more', async () => {
    let tries = 0;
    const { order, start, ended } = await prepare((...given) => (tries++ === 0 ? killed() : write(...given)));
    const { id } = await order();
    await start();
    // The empty file does not pass its checks, which come only after an encoder that ended well.
    expect((await ended(id)).problem?.code).toBe('check-failed');
    expect(tries).toBe(2);
  });

  it('twice is set aside with its reason, and the next goes on', async () => {
    let tries = 0;
    const { order, start, ended } = await prepare(() => {
      tries += 1;
      return killed();
    });
    const [first, second] = [await order(), await order()];
    await start();
    expect((await ended(first.id)).problem).toMatchObject({ code: 'engine-killed' });
    expect((await ended(second.id)).problem).toMatchObject({ code: 'engine-killed' });
    expect(tries).toBe(4);
  });

  it('is told by its last words, whatever they are', async () => {
    const stderr = `a NUL \0 and half a character \ud83d ${'☂'.repeat(5000)}`;
    const { order, start, ended } = await prepare(() =>
      Promise.reject(new EngineError('engine-failed', 'The encoder stopped.', { stderr })),
    );
    const { id } = await order();
    await start();
    expect((await ended(id)).problem).toMatchObject({
      code: 'engine-failed',
      detail: expect.stringMatching(/☂$/) as string,
    });
  });
});

describe('a rendition during which the server dies', () => {
  // What a server that dies at once leaves behind: a claim, and nothing more.
  const die = async ({ query }: Database) => {
    const values = ['one', 20_000, 'rendition', PRIORITY.analysis];
    const [claimed] = await query<{ subject: string }>(jobs.CLAIM_JOB, values);
    await query(jobs.RELEASE_JOBS_OF, ['one']);
    return claimed?.subject;
  };

  it('is begun ten times and then set aside with its reason', async () => {
    const { context, order, start, ended } = await prepare(write);
    const bad = await order();
    for (let death = 0; death < 10; death += 1) expect(await die(context.database)).toBe(bad.id);
    const good = await order();
    await start();
    expect((await ended(bad.id)).problem?.code).toBe('given-up');
    expect((await ended(good.id)).problem?.code).toBe('check-failed');
  });

  it('lets what waits behind it go first after each three times, so that none is used up before the others had their turn', async () => {
    const { context, order } = await prepare(write);
    const orders = [await order(), await order(), await order()];
    const begun: (string | undefined)[] = [];
    for (let death = 0; death < 18; death += 1) begun.push(await die(context.database));
    const thrice = orders.flatMap(({ id }) => [id, id, id]);
    expect(begun).toEqual([...thrice, ...thrice]);
  });

  it('nine times still ends as it should', async () => {
    const { context, order, start, ended } = await prepare(write);
    const { id } = await order();
    for (let death = 0; death < 9; death += 1) await die(context.database);
    await start();
    expect((await ended(id)).problem?.code).toBe('check-failed');
  });
});

describe('a result that cannot be recorded', () => {
  it('is not made for ever', async () => {
    let records = 0;
    const failing = (database: Database): Database => ({
      ...database,
      transaction: (work) =>
        database.transaction((query) =>
          work((text, values) => {
            if (text !== statements.FINISH_RENDITION) return query(text, values);
            records += 1;
            return Promise.reject(new Error('no such luck'));
          }),
        ),
    });
    const { context, order, start, ended, output } = await prepare(write, failing);
    const { id } = await order();
    const runner = await start();
    for (let round = 1; round <= 10; round += 1) {
      await vi.waitUntil(() => records === round, { timeout: 30_000, interval: 5 });
      // Nobody holds that attempt any more, so it is taken up again; the next one is left alone.
      await vi.waitUntil(
        async () => {
          const expire = `UPDATE job SET lease_until = now() - interval '1 second' WHERE attempt = $1`;
          await context.database.query(expire, [round]);
          runner.wake();
          return records > round || (await getRendition(context, id)).state === 'failed';
        },
        { timeout: 30_000, interval: 20 },
      );
    }
    expect((await ended(id)).problem?.code).toBe('given-up');
    expect(records).toBe(10);
    await vi.waitUntil(() => readdirSync(output).length === 0, { timeout: 30_000, interval: 20 });
  });
});

describe('a server that is stopped in order', () => {
  it('goes on with what was done, and that does not count as lost', async () => {
    let began = 0;
    const hang: Engine['encodeSounds'] = (_request, { signal }) => {
      began += 1;
      return new Promise((_resolve, reject) =>
        signal.addEventListener('abort', () => reject(new EngineError('stopped', 'The work was stopped.'))),
      );
    };
    const { context, order, start } = await prepare(hang);
    const { id } = await order();
    for (let round = 1; round <= 12; round += 1) {
      const runner = await start();
      await vi.waitUntil(() => began === round, { timeout: 30_000, interval: 5 });
      await runner.stop();
      expect((await getRendition(context, id)).state).toBe('queued');
    }
  });

  it('leaves nothing behind of what was stopped by its user', async () => {
    const { context, order, folder } = await prepare(write);
    const { id } = await order();
    const work = path.join(folder, 'data', 'work', id);
    mkdirSync(work, { recursive: true });
    writeFileSync(path.join(work, 'journal.json'), '{}');
    writeFileSync(path.join(context.config.outputFolder, `.linstock-${id}-one-0.partial`), 'a pass');
    await clearUp(context, await stopRendition(context, id));
    expect(readdirSync(context.config.outputFolder)).toEqual([]);
    expect(readdirSync(path.dirname(work))).toEqual([]);
  });
});
