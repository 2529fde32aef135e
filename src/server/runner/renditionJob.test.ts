import { readdirSync, statSync } from 'node:fs';
import path from 'node:path';
import { afterAll, afterEach, beforeAll, describe, expect, it, vi } from 'vitest';
import type { RenditionView } from '../../contract/views.ts';
import type { Container } from '../../core/container/names.ts';
import { plainVideo, atQuality, STARTING_RECIPE, type RateChoice, type Recipe } from '../../core/recipe/recipe.ts';
import { soundCodecsOf } from '../../core/sound/codecs.ts';
import { RATED, RATED_CODECS, type RatedCodec } from '../../core/video/codecs.ts';
import { makeFakeProgramme } from '../../testing/fakeProgramme.ts';
import { viewSpeeds } from '../forecast/speeds.ts';
import { createHold } from '../../engine/process/hold.ts';
import { startScheduler, type Scheduler } from '../jobs/scheduler.ts';
import { getRendition, orderRendition } from '../renditions/renditions.ts';
import { createRenditionHandler } from './renditionJob.ts';

const NOBODY_HOLDS = { begin: () => ({ hold: createHold(), end: () => undefined }) };

let context: Awaited<ReturnType<typeof makeFakeProgramme>>['context'];
let programmeId = '';
const running: Scheduler[] = [];

beforeAll(async () => {
  ({ context, programmeId } = await makeFakeProgramme());
});
afterEach(() => Promise.all(running.splice(0).map((one) => one.stop())));
afterAll(() => context.database.close());

async function make(recipe: Recipe): Promise<RenditionView> {
  running.push(await startScheduler(context, 'one', [createRenditionHandler(context, NOBODY_HOLDS)], () => 1));
  const request = { programmeId, recipe, portion: null, name: null, keepFailed: false };
  const { id } = await orderRendition(context, request);
  running[0]?.wake();
  return vi.waitUntil(
    async () => {
      const rendition = await getRendition(context, id);
      return ['done', 'failed'].includes(rendition.state) && rendition;
    },
    { timeout: 20_000, interval: 10 },
  );
}

function recipeOf(codec: RatedCodec, rate: RateChoice): Recipe {
  const container: Container = RATED[codec].containers[0]!;
  const audio = { ...STARTING_RECIPE.audio, codec: soundCodecsOf(container)[0]! };
  return { ...STARTING_RECIPE, container, video: plainVideo(codec, rate, 'fast'), audio };
}

describe('a rendition, from order to result', () => {
  it.each(RATED_CODECS)('in %s at its usual quality passes every check', async (codec) => {
    const made = await make(recipeOf(codec, atQuality(RATED[codec].quality.usual)));
    expect(made).toMatchObject({ state: 'done', quality: { ssim: { low: 0.96 } } });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(made.bytes).toBe(statSync(made.path).size);
    // And it tells how long the next will take.
    const { encoding: speeds } = await viewSpeeds(context);
    expect(speeds).toContainEqual(expect.objectContaining({ codec, effort: 'fast', way: 'once', encodes: 1 }));
  });

  it.each(RATED_CODECS.flatMap((codec) => [9_000_000, 23_000_000].map((cap) => ({ codec, cap }))))(
    'in $codec fills $cap bytes from below',
    async ({ codec, cap }) => {
      const made = await make(recipeOf(codec, { mode: 'size', bytes: cap }));
      expect(made).toMatchObject({ state: 'done', fill: { outcome: 'filled' } });
      expect(made.bytes).toBeLessThanOrEqual(cap);
      expect(made.bytes).toBeGreaterThanOrEqual(cap * 0.995);
    },
  );

  it('says what would fit where the coarsest quality is still too large', async () => {
    const made = await make(recipeOf('vp9', { mode: 'size', bytes: 4_000_000 }));
    expect(made).toMatchObject({ state: 'failed', problem: { code: 'cap-below-floor' }, fill: { outcome: 'over' } });
    expect(made.problem?.message).toMatch(/At \d+ × \d+ it should fit/);
    expect(made.fill!.secondPasses.at(-1)?.quality).toBe(RATED.vp9.quality.worst);
  });

  it('leaves only results behind', () => {
    expect(readdirSync(context.config.outputFolder).filter((name) => name.startsWith('.'))).toEqual([]);
    expect(readdirSync(path.join(context.config.dataFolder, 'work'))).toEqual([]);
  });
});
