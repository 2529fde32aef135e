import { describe, expect, it } from 'vitest';
import { AS_IT_IS } from '../../core/geometry/preparation.ts';
import type { SoundingRequest } from '../../contract/sounding.ts';
import { ROUGH_ERROR, type Sounding } from '../../core/sounding/sounding.ts';
import type { Engine } from '../../engine/engine.ts';
import * as analyses from '../../store/statements/analyses.ts';
import { factsOf } from '../../testing/facts.ts';
import { makeFakeProgramme } from '../../testing/fakeProgramme.ts';
import { PRIORITY } from '../jobs/job.ts';
import { enqueue } from '../jobs/queue.ts';
import { startScheduler } from '../jobs/scheduler.ts';
import {
  askSounding,
  askSoundingLater,
  createSoundingHandler,
  soundBefore,
  soundCloser,
  viewSounding,
} from './soundings.ts';

const SECONDS = 3600;
const REQUEST: SoundingRequest = {
  ...{ codec: 'h264', width: 640, height: 360, portion: null },
  ...{ stored: null, alpha: false, ...AS_IT_IS, frameRate: null, around: null },
};
const signal = new AbortController().signal;

/** Seconds of it that move; all else stands still. */
const isBusy = (second: number) => second >= 1000 && second < 1400;

/** An hour on an engine that encodes nothing, and notes the frames it was asked for. */
async function prepare() {
  const asked: number[] = [];
  const gauge: Engine['gauge'] = ({ from, out }, how) => {
    asked.push(from.inFrame);
    const bytes = isBusy(from.inFrame / 25) ? 9000 : 500;
    const frames = Array.from({ length: out.frameCount }, () => bytes);
    return Promise.resolve(
      ('qualities' in how ? how.qualities : [0]).map((_, index) => frames.map((one) => one / (index + 1))),
    );
  };
  const facts = factsOf({ frameCount: SECONDS * 25, durationSeconds: SECONDS, bytes: 500_000 });
  const { context, programmeId: id } = await makeFakeProgramme(facts, { gauge });
  /** What an analysis finds of it. */
  const analyse = async () => {
    const bits = Array.from({ length: SECONDS }, (_, second) => (isBusy(second) ? 900 : 50));
    const series = JSON.stringify({ busyness: { stepSeconds: 1, bits } });
    await context.database.query(analyses.ASK_ANALYSIS, [id, context.now()]);
    await context.database.query(analyses.FINISH_ANALYSIS, [id, '{}', series, 1]);
  };
  const measure = async () => {
    await soundBefore(context, id, REQUEST, signal);
    return (await viewSounding(context, id, REQUEST)) as Sounding;
  };
  return { context, asked, analyse, measure };
}

describe('a sounding of an hour', () => {
  it('is rough before anyone knows how busy it is where, and then made again from calm to busy, once', async () => {
    const { context, asked, analyse, measure } = await prepare();
    const rough = await measure();
    expect(rough).toMatchObject({ isRough: true, error: ROUGH_ERROR });
    const evenly = asked.length;
    await measure();
    expect(asked).toHaveLength(evenly);

    await analyse();
    const { points, error, isRough } = await measure();
    expect([error, isRough]).toEqual([undefined, undefined]);
    const again = asked.slice(evenly);
    expect(again.length).toBeGreaterThan(evenly);
    // A ninth of it moves.
    const share = again.filter((frame) => isBusy(frame / 25)).length / again.length;
    expect(share).toBeCloseTo(400 / SECONDS, 1);
    const real = (400 * 9000 + 3200 * 500) / SECONDS;
    // Of thirty-two stretches three or four move.
    const told = points[0]!.bitsPerSecond / (real * 8 * 25);
    expect(Math.abs(told - 1)).toBeLessThan(0.2);
    await measure();
    expect(asked).toHaveLength(evenly + again.length);
    await context.database.close();
  });
});

describe('a sounding that someone waits for', () => {
  /** A minute on an engine that encodes nothing; the qualities of each turn are noted, and a fine one fails where that is wanted. */
  const minute = async (finestFails = false) => {
    const asked: string[] = [];
    const gauge: Engine['gauge'] = ({ out }, how) => {
      const qualities = 'qualities' in how ? how.qualities : [];
      if (asked.at(-1) !== qualities.join()) asked.push(qualities.join());
      if (finestFails && qualities.includes(12)) return Promise.reject(new Error('no'));
      return Promise.resolve(
        qualities.map((one) => Array.from({ length: out.frameCount }, () => 9000 * 0.87 ** (one - 12))),
      );
    };
    const facts = factsOf({ frameCount: 60 * 25, durationSeconds: 60, bytes: 500_000 });
    const { context, programmeId: id } = await makeFakeProgramme(facts, { gauge });
    await context.database.query(analyses.ASK_ANALYSIS, [id, context.now()]);
    const series = JSON.stringify({ busyness: { stepSeconds: 1, bits: Array<number>(60).fill(50) } });
    await context.database.query(analyses.FINISH_ANALYSIS, [id, '{}', series, 1]);
    const scheduler = await startScheduler(context, 'one', [createSoundingHandler(context)], () => 1);
    const view = async () => (await viewSounding(context, id, REQUEST)) as Sounding;
    const settled = () =>
      expect.poll(() => context.database.query("SELECT 1 FROM job WHERE kind = 'sounding'"), PATIENT).toEqual([]);
    const end = async () => {
      await scheduler.stop();
      await context.database.close();
    };
    return { context, scheduler, id, asked, view, settled, end };
  };
  const PATIENT = { timeout: 20_000 };

  it('tells of the wanted quality first, and of all others then', async () => {
    const { context, scheduler, id, asked, view, settled, end } = await minute();
    await askSounding(context, scheduler, id, { ...REQUEST, around: 28 });
    await settled();
    expect(asked).toEqual(['26,32,51', '12,18,22']);
    const { points, isRough, between } = await view();
    expect(points.map(({ quality }) => quality)).toEqual([12, 18, 22, 26, 32, 51]);
    expect([isRough, between]).toEqual([undefined, undefined]);
    await askSounding(context, scheduler, id, REQUEST);
    await settled();
    expect(asked).toHaveLength(2);
    await end();
  });

  it('for a batch is of the wanted quality alone, and of the rest once it is asked for', async () => {
    const { context, scheduler, id, asked, view, settled, end } = await minute();
    await askSoundingLater(context, id, { ...REQUEST, around: 23 }, true);
    scheduler.wake();
    await settled();
    expect(asked).toEqual(['22,26,51']);
    expect(await view()).toMatchObject({ isRough: true, between: [22, 26] });
    expect(await askSounding(context, scheduler, id, REQUEST)).toMatchObject({ between: [22, 26] });
    await settled();
    expect(asked).toEqual(['22,26,51', '12,18,32']);
    expect((await view()).isRough).toBeUndefined();
    await end();
  });

  it('measures nothing where all was measured while it waited', async () => {
    const { context, scheduler, id, asked, view, settled, end } = await minute();
    await soundBefore(context, id, REQUEST, signal);
    const before = await view();
    const payload = { programmeId: id, request: REQUEST };
    await enqueue(context.database.query, { kind: 'sounding', subject: '[]', payload, priority: PRIORITY.look });
    scheduler.wake();
    await settled();
    expect(asked).toEqual(['12,18,22,26,32,51']);
    expect(await view()).toEqual(before);
    await end();
  });

  it('keeps what it has where the rest cannot be measured, and does not begin it over and over', async () => {
    const { context, scheduler, id, asked, view, settled, end } = await minute(true);
    await askSounding(context, scheduler, id, REQUEST);
    await settled();
    const known = await view();
    expect(known).toMatchObject({ between: [22, 26], isEnd: true });
    expect(await askSounding(context, scheduler, id, REQUEST)).toEqual(known);
    await settled();
    expect(asked).toEqual(['22,26,51', '12,18,32']);
    await end();
  });
});

describe('a closer look before a size is filled', () => {
  /** Grain down to quality 24, and none from there on. */
  const grainy = async (seconds: number) => {
    const asked: (readonly number[])[] = [];
    const gauge: Engine['gauge'] = ({ out }, how) => {
      const qualities = 'qualities' in how ? how.qualities : [];
      asked.push(qualities);
      const bytesAt = (quality: number) => (quality < 24 ? 9000 : 700) * 0.87 ** (quality - 24);
      return Promise.resolve(qualities.map((one) => Array.from({ length: out.frameCount }, () => bytesAt(one))));
    };
    const facts = factsOf({ frameCount: seconds * 25, durationSeconds: seconds, bytes: 500_000 });
    const { context, programmeId: id } = await makeFakeProgramme(facts, { gauge });
    await context.database.query(analyses.ASK_ANALYSIS, [id, context.now()]);
    await context.database.query(analyses.FINISH_ANALYSIS, [
      id,
      '{}',
      JSON.stringify({ busyness: { stepSeconds: 1, bits: Array<number>(seconds).fill(50) } }),
      1,
    ]);
    await soundBefore(context, id, REQUEST, signal);
    asked.length = 0;
    const closer = (quality: number) => soundCloser(context, id, REQUEST, quality, signal);
    return { context, asked, closer, view: async () => (await viewSounding(context, id, REQUEST)) as Sounding };
  };

  it('measures that very quality where grain is dropped, once, and keeps it beside the others', async () => {
    const { context, asked, closer, view } = await grainy(120);
    const before = await view();
    expect(await closer(16)).toBe(false);
    expect(asked).toEqual([]);
    expect(await closer(23.5)).toBe(true);
    expect(asked.length).toBeGreaterThan(0);
    for (const qualities of asked) expect(qualities).toEqual([23.5]);
    const after = await view();
    expect(after.points.map(({ quality }) => quality)).toEqual([12, 18, 22, 23.5, 26, 32, 51]);
    expect(after.points.filter(({ quality }) => quality !== 23.5)).toEqual(before.points);
    // Still all of the grain: the straight line had a third of it.
    expect(after.points[3]!.bitsPerSecond / after.points[2]!.bitsPerSecond).toBeCloseTo(0.87 ** 1.5, 2);
    expect(await closer(23.5)).toBe(false);
    await context.database.close();
  });

  it('is left out of a clip that is as soon encoded', async () => {
    const { context, asked, closer } = await grainy(12);
    expect(await closer(23.5)).toBe(false);
    expect(asked).toEqual([]);
    await context.database.close();
  });
});
