import { describe, expect, it } from 'vitest';
import { workOfPlan } from '../../core/forecast/encodeWork.ts';
import { isEncoded, pictureOf } from '../../core/plan/encodePlan.ts';
import { planRendition } from '../../core/plan/planRendition.ts';
import { STARTING_RECIPE } from '../../core/recipe/recipe.ts';
import type { VideoFacts } from '../../core/programme/facts.ts';
import type { Engine } from '../../engine/engine.ts';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { makeFakeProgramme } from '../../testing/fakeProgramme.ts';
import { findProgramme } from '../programmes/programmes.ts';
import { findCosts, groupsOf, measureCosts } from './costs.ts';
import { keepMeasured, settingsKey } from './measured.ts';
import { foreseeTrial } from './planTrial.ts';

const MINUTE = 1500;
const signal = new AbortController().signal;

/** A programme of so many minutes on an engine that weighs nothing and notes what it was asked to. */
async function prepare(minutes: number, video: Partial<VideoFacts> = {}) {
  const length = { frameCount: minutes * MINUTE, durationSeconds: minutes * 60 };
  const facts = factsOf({ ...length, bytes: 500_000 }, video);
  const asked: { lead: number; frames: number }[] = [];
  const weighGroups: Engine['weighGroups'] = ({ out }, { keyframeInterval, lead }) => {
    asked.push({ lead, frames: out.frameCount });
    const count = Math.ceil((out.frameCount - lead) / keyframeInterval);
    const groups = (bytes: number) => Array.from({ length: count }, () => ({ bytes, ssimLoss: 0.02, mse: 4 }));
    return Promise.resolve([groups(9000), groups(4000)]);
  };
  const { context, programmeId: id } = await makeFakeProgramme(facts, { weighGroups });
  const row = await findProgramme(context, id);
  const programme = { ...row, fingerprint: row.fingerprint! };
  const recipe = { ...STARTING_RECIPE, audio: null };
  const clock = clockOf(facts);
  const outcome = planRendition({ facts, clock, recipe, portion: null, encoders: ['h264'], sounding: null });
  if (!outcome.ok) throw new Error('It cannot be planned.');
  const picture = pictureOf(outcome.plan);
  if (!picture || !isEncoded(picture)) throw new Error('There is no picture.');
  return { context, programme, plan: outcome.plan, picture, asked };
}

describe('groups of a programme', () => {
  it('are weighed in one go where it is short, and once', async () => {
    const { context, programme, picture, asked } = await prepare(2);
    const costs = await measureCosts(context, programme, picture, () => undefined, signal);
    expect(asked).toEqual([{ lead: 0, frames: 2 * MINUTE }]);
    expect(costs.some(({ guessed }) => guessed)).toBe(false);
    expect(await measureCosts(context, programme, picture, () => undefined, signal)).toEqual(costs);
    expect(asked).toHaveLength(1);
    await context.database.close();
  });

  it('are weighed here and there where it is long, each with frames around it, and the rest is guessed', async () => {
    const { context, programme, picture, asked } = await prepare(60);
    const fractions: number[] = [];
    const costs = await measureCosts(context, programme, picture, (one) => fractions.push(one), signal);
    const weighed = costs.filter(({ guessed }) => !guessed);
    expect(asked).toHaveLength(weighed.length);
    expect(weighed.length).toBeLessThan(costs.length / 5);
    expect(asked.reduce((sum, { frames }) => sum + frames, 0)).toBeLessThan((60 * MINUTE) / 4);
    expect(asked.slice(1).every(({ lead }) => lead > 0)).toBe(true);
    expect(costs.map(({ fine, coarse }) => [fine.bytes, coarse.bytes])).toEqual(costs.map(() => [9000, 4000]));
    expect(await findCosts(context, programme, picture)).toEqual(costs);
    await context.database.close();
  });

  it('are weighed on from where an earlier attempt was broken off', async () => {
    const { context, programme, picture, asked } = await prepare(60);
    const weigh = context.engine.weighGroups.bind(context.engine);
    Object.assign(context.engine, {
      weighGroups: (...given: Parameters<typeof weigh>) =>
        asked.length === 7 ? Promise.reject(new Error('broken off')) : weigh(...given),
    });
    await expect(measureCosts(context, programme, picture, () => undefined, signal)).rejects.toThrow('broken off');
    expect(await findCosts(context, programme, picture)).toBeNull();
    Object.assign(context.engine, { weighGroups: weigh });
    const costs = await measureCosts(context, programme, picture, () => undefined, signal);
    expect(asked).toHaveLength(costs.filter(({ guessed }) => !guessed).length);
    await context.database.close();
  });

  it('are weighed in one go where frames cannot be sought', async () => {
    const { context, programme, picture, asked } = await prepare(60, { seeksExactly: false });
    await measureCosts(context, programme, picture, () => undefined, signal);
    expect(asked).toEqual([{ lead: 0, frames: 60 * MINUTE }]);
    await context.database.close();
  });
});

describe('what a trial will take', () => {
  it('is unknown before anything was finished, and then less the more is known of it', async () => {
    const { context, programme, plan, picture } = await prepare(2);
    const { width, height } = picture.out.size;
    const points = [18, 23, 28].map((quality) => ({ codec: 'h264', width, height, quality, plan, picture }) as const);
    const foresee = () => foreseeTrial(context, programme, points, 0.1);
    expect(await foresee()).toBeNull();

    await context.database.query(
      `INSERT INTO rendition (id, programme_id, recipe, portion, plan, name, path, keep_failed, state, queued_at, passes,
         bytes, encode_seconds, check_seconds, outline, work)
       VALUES ('made', $1, '{}', NULL, '{}', 'made', 'made', false, 'done', now(), 1, 9e6, 60, 30, '{}', $2)`,
      [programme.id, JSON.stringify(workOfPlan(plan))],
    );
    const before = (await foresee())!;
    expect(before.weighing).toBeGreaterThan(5);
    // A tenth of two minutes at three qualities.
    expect(before.trying).toBeGreaterThan(0.2 * 90);
    expect(before.trying).toBeLessThan(0.6 * 90);

    await measureCosts(context, programme, picture, () => undefined, signal);
    const weighed = (await foresee())!;
    expect(weighed).toEqual({ weighing: 0, trying: before.trying });

    const frames = [{ ssimLuma: 0.98, ssimAll: 0.98, mseLuma: 4, mseAll: 4 }];
    const groups = groupsOf(picture).map((group) => ({ ...group, bytes: 9000, seconds: null, frames }));
    await keepMeasured(context, programme.fingerprint, settingsKey(picture, 23), groups);
    const tried = (await foresee())!;
    expect(tried.trying).toBeLessThan(0.9 * before.trying);
    for (const { quality } of points) {
      await keepMeasured(context, programme.fingerprint, settingsKey(picture, quality), groups);
    }
    expect(await foresee()).toEqual({ weighing: 0, trying: 0 });
    await context.database.close();
  });
});
