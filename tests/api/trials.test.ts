import { mkdirSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import type { ScaleView, TrialPlan, TrialView } from '../../src/contract/trial.ts';
import type { AnalysisView, ErrorBody, PlanView, ProgrammeView, RenditionView } from '../../src/contract/views.ts';
import { UNSEEN_DB } from '../../src/core/scale/explain.ts';
import { draw } from '../support/footage.ts';
import { enginesOn, makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
const FILM = path.join(folders.media, 'film.mov');

/** Four stretches that differ: still, moving, grainy, both. */
function drawFilm(): string {
  const parts = [
    'testsrc2=s=192x108:r=25:d=3,loop=loop=74:size=1:start=0,setpts=N/25/TB',
    'testsrc2=s=192x108:r=25:d=3',
    'color=gray:s=192x108:r=25:d=3,noise=c0s=24:c0f=t',
    'testsrc2=s=192x108:r=25:d=3,noise=c0s=12:c0f=t',
  ];
  const graph = parts.map((part, index) => `${part},trim=end_frame=75,format=yuv420p[p${index}]`).join(';');
  return draw(FILM, [
    ...['-filter_complex', `${graph};[p0][p1][p2][p3]concat=n=4:v=1[out]`, '-map', '[out]'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '8', '-colorspace', 'bt709'],
    ...['-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'],
  ]);
}

const RECIPE = {
  container: 'mp4',
  video: {
    codec: 'h264',
    rate: { mode: 'quality', value: 26 },
    effort: 'fast',
    keyframes: { seconds: 1 },
    keyframesAtScenes: false,
  },
  audio: null,
};

describe('trials', () => {
  let server: TestServer;
  let film: ProgrammeView;
  const call = <Body>(method: string, where: string, body?: unknown) => server.call<Body>(method, where, body);
  const ended = async (id: string) => {
    let trial = (await call<TrialView>('GET', `trials/${id}`)).body;
    while (trial.state === 'waiting' || trial.state === 'running') {
      await new Promise((resolve) => setTimeout(resolve, 100));
      trial = (await call<TrialView>('GET', `trials/${id}`)).body;
    }
    return trial;
  };
  const scale = async (question = '') => (await call<ScaleView>('GET', `programmes/${film.id}/scale${question}`)).body;

  beforeAll(async () => {
    mkdirSync(folders.media, { recursive: true });
    drawFilm();
    server = await startServer(folders);
    film = await server.takeIn(FILM);
    // What it finds moves excerpts.
    await vi.waitUntil(
      async () => (await call<AnalysisView>('GET', `programmes/${film.id}/analysis`)).body.state === 'done',
      { timeout: 60_000, interval: 100 },
    );
  });
  afterAll(() => server.end('SIGTERM'));

  it('are foreseen before they are asked for, and propose what is worth trying', async () => {
    const { status, body } = await call<TrialPlan>('POST', 'trials?dry', { programmeId: film.id, recipe: RECIPE });
    expect(status).toBe(200);
    expect(body.grid.map(({ codec, width, height }) => `${codec} ${width}x${height}`)).toEqual([
      'h264 192x108',
      'hevc 192x108',
    ]);
    expect(body).toMatchObject({ points: 6, excerptSeconds: 8, workSeconds: null, gaps: [] });
  });

  it('show size against quality, and the best under a cap in words', async () => {
    const grid = [
      { codec: 'h264', width: 192, height: 108, qualities: [20, 26, 32] },
      { codec: 'h264', width: 96, height: 54, qualities: [20, 26, 32] },
    ];
    const asked = await call<{ id: string }>('POST', 'trials', {
      programmeId: film.id,
      recipe: RECIPE,
      grid,
      share: 0.5,
    });
    expect(asked.status).toBe(202);
    const trial = await ended(asked.body.id);
    expect(trial).toMatchObject({ state: 'done', fraction: 1, gaps: [] });
    expect(trial.excerpts!.length).toBeGreaterThanOrEqual(4);
    expect(trial.excerpts!.reduce((sum, { weight }) => sum + weight, 0)).toBeCloseTo(1, 6);
    expect(trial.excerpts!.some(({ reason }) => reason === 'hardest')).toBe(true);
    const { curves } = await scale();
    const sizes = curves.flatMap(({ points }) => points.map(({ bytes }) => bytes));
    const cap = Math.round((Math.min(...sizes) + Math.max(...sizes)) / 2);
    const { best } = await scale(`?capBytes=${cap}`);
    expect(curves).toHaveLength(2);
    for (const { points } of curves) {
      expect(points.map(({ kind }) => kind)).toEqual(['tried', 'forecast', 'tried', 'forecast', 'tried']);
      expect(points.map(({ quality }) => quality)).toEqual([32, 29, 26, 23, 20]);
      expect(points.map(({ bytes }) => bytes)).toEqual(points.map(({ bytes }) => bytes).toSorted((a, b) => a - b));
      expect(points.map(({ value }) => value)).toEqual(points.map(({ value }) => value).toSorted((a, b) => a - b));
      for (const { low, bytes, high } of points) expect(low <= bytes && bytes <= high).toBe(true);
    }
    expect(best).toMatchObject({ codec: 'h264', reason: expect.stringMatching(/H\.264 at/) as string });
    expect(best!.bytes).toBeLessThanOrEqual(cap);
  });

  it('foresee what a rendition then comes to, and plans know it', async () => {
    const { curves } = await scale();
    const point = curves[0]!.points.find(({ quality }) => quality === 26)!;
    const order = { programmeId: film.id, recipe: RECIPE };
    const plan = (await call<PlanView>('POST', 'plan', order)).body;
    expect(plan.expectedBytes! / point.bytes).toBeCloseTo(1, 2);
    const { body } = await call<RenditionView>('POST', 'renditions', order);
    const made = await server.waitFor(body.id);
    // Half of the groups were tried.
    expect(made.bytes! / point.bytes).toBeGreaterThan(0.93);
    expect(made.bytes! / point.bytes).toBeLessThan(1.07);
    const kinds = (await scale()).curves[0]!.points.map(({ kind }) => kind);
    expect(kinds).toEqual(['tried', 'forecast', 'tried', 'forecast', 'tried', 'rendition']);
    expect((await scale()).results).toEqual({ h264: 1 });
    for (const measure of ['ssim', 'psnr', 'xpsnr'] as const) {
      const { points } = (await scale(`?measure=${measure}`)).curves[0]!;
      const real = points.find(({ kind }) => kind === 'rendition')!;
      expect(real.value, measure).toBeCloseTo(made.quality!.closer!.pooled[measure].mean, 6);
      const tried = points.find(({ kind, quality }) => kind === 'tried' && quality === 26)!;
      expect(Math.abs(tried.value - real.value), measure).toBeLessThan(0.5);
    }
  });

  it('foresee the size of a quality between those that were tried', async () => {
    const point = (await scale()).curves[0]!.points.find(({ quality }) => quality === 29)!;
    const recipe = { ...RECIPE, video: { ...RECIPE.video, rate: { mode: 'quality', value: 29 } } };
    const { body } = await call<RenditionView>('POST', 'renditions', { programmeId: film.id, recipe });
    const made = await server.waitFor(body.id);
    expect(made.bytes!).toBeGreaterThan(point.low);
    expect(made.bytes!).toBeLessThan(point.high);
  });

  it('lead a size to fill to one encode of the whole', async () => {
    const recipe = { ...RECIPE, video: { ...RECIPE.video, rate: { mode: 'size', bytes: 90_000 } } };
    const { body } = await call<RenditionView>('POST', 'renditions', { programmeId: film.id, recipe });
    const made = await server.waitFor(body.id);
    expect(made.fill!.secondPasses).toHaveLength(1);
    expect(made.bytes).toBeLessThanOrEqual(90_000);
    expect(made.bytes! / 90_000).toBeGreaterThan(0.995);
    // Where the bytes went: every group, with what it would have had at one quality for all.
    const groups = made.fill!.groups!;
    expect(groups.reduce((sum, { frames }) => sum + frames, 0)).toBe(300);
    expect(groups.every(({ bytes, evenBytes }) => bytes > 0 && evenBytes > 0)).toBe(true);
    expect(groups.some(({ bytes, evenBytes }) => bytes !== evenBytes)).toBe(true);
  });

  it('choose the frame size that an order leaves open, and the result is as good as it was said to be', async () => {
    const file = path.join(folders.media, 'busy.mov');
    draw(file, [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=480x270:r=25:d=3,noise=c0s=8:c0f=t'],
      ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '8', '-pix_fmt', 'yuv420p'],
    ]);
    const busy = await server.takeIn(file);
    const video = { ...RECIPE.video, rate: { mode: 'size', bytes: 80_000 } };
    const open = { ...RECIPE, video, picture: { fit: { height: 270, orSmaller: true } } };
    const order = { recipe: open };
    const before = await call('POST', `programmes/${busy.id}/frame-size`, order);
    expect(before.body).toEqual({ size: { width: 480, height: 270 }, reason: null });
    const made = async (recipe: object) => {
      const { body } = await call<RenditionView>('POST', 'renditions', { programmeId: busy.id, recipe });
      return server.waitFor(body.id);
    };
    const chosen = await made(open);
    expect(chosen).toMatchObject({ state: 'done', recipe: { picture: { fit: { orSmaller: true } } } });
    const told = chosen.plan.advisories.find(({ code }) => code === 'frame-size-measured')!;
    expect(told.message).toMatch(/^H\.264 at \d+ × \d+ (beats|is as good as) H\.264 at \d+ × \d+/);
    expect((await call('POST', `programmes/${busy.id}/frame-size`, order)).body).toMatchObject({
      size: { width: chosen.outline.width },
      reason: told.message,
    });
    // Within what is seen, it is the better of the two.
    const other = await made({ ...open, picture: { fit: { height: chosen.outline.width === 480 ? 240 : 270 } } });
    expect(chosen.quality!.ssim.meanDb).toBeGreaterThan(other.quality!.ssim.meanDb - UNSEEN_DB);
  });

  it('is left open only under a size to fill', async () => {
    const recipe = { ...RECIPE, picture: { fit: { height: 90, orSmaller: true } } };
    const { status, body } = await call<ErrorBody>('POST', 'plan', { programmeId: film.id, recipe });
    expect([status, body.error.field]).toEqual([422, 'recipe.picture.fit']);
  });

  it('compare efforts, and leave forecasts of the order’s own alone', async () => {
    const own = { codec: 'h264', width: 96, height: 54, qualities: [20, 26, 32] };
    const grid = [own, { ...own, effort: 'balanced' }];
    const asked = await call<{ id: string }>('POST', 'trials', {
      programmeId: film.id,
      recipe: RECIPE,
      grid,
      share: 0.5,
    });
    expect(await ended(asked.body.id)).toMatchObject({ state: 'done', gaps: [] });
    const { curves } = await scale();
    const [quick, slow] = [curves.find(({ effort }) => !effort)!, curves.find(({ effort }) => effort === 'balanced')!];
    expect(slow.points.map(({ bytes }) => bytes)).not.toEqual(quick.points.map(({ bytes }) => bytes));
    expect(slow.points.filter(({ kind }) => kind === 'tried')).toHaveLength(3);
    const csv = await fetch(`${server.address}/api/programmes/${film.id}/scale.csv`);
    expect(await csv.text()).toContain('h264,96,54,balanced,26,tried,');
  });

  it('encode nothing twice', async () => {
    const kept = () => readdirSync(path.join(folders.data, 'cache', 'tried')).length;
    const before = kept();
    const grid = [{ codec: 'h264', width: 192, height: 108, qualities: [20, 26, 32] }];
    const again = await call<{ id: string }>('POST', 'trials', {
      programmeId: film.id,
      recipe: RECIPE,
      grid,
      share: 0.5,
    });
    expect((await ended(again.body.id)).state).toBe('done');
    expect(kept()).toBe(before);
  });

  it('foresee another frame rate as well, in excerpts of the programme’s own frames', async () => {
    const recipe = { ...RECIPE, time: { frameRate: 'half' } };
    const expected = async (one: object) =>
      (await call<PlanView>('POST', 'plan', { programmeId: film.id, recipe: one })).body.expectedBytes!;
    const before = await expected(RECIPE);
    const grid = [{ codec: 'h264', width: 192, height: 108, qualities: [22, 26, 30] }];
    const asked = await call<{ id: string }>('POST', 'trials', { programmeId: film.id, recipe, grid, share: 0.5 });
    const trial = await ended(asked.body.id);
    expect(trial).toMatchObject({ state: 'done', gaps: [] });
    expect(Math.max(...trial.excerpts!.map(({ outFrame }) => outFrame))).toBeGreaterThan(film.frameCount / 2);
    const foreseen = await expected(recipe);
    // What was tried before, otherwise, is not forgotten.
    expect(await expected(RECIPE)).toBe(before);
    const { body } = await call<RenditionView>('POST', 'renditions', { programmeId: film.id, recipe });
    const made = await server.waitFor(body.id);
    expect(made.checks.find(({ name }) => name === 'Frames')?.found).toBe('150');
    expect(made.bytes! / foreseen).toBeGreaterThan(0.93);
    expect(made.bytes! / foreseen).toBeLessThan(1.07);
  });

  it('are stopped, leave nothing running, and tell so', async () => {
    const recipe = { ...RECIPE, video: { ...RECIPE.video, codec: 'hevc', effort: 'thorough' } };
    const grid = [{ codec: 'hevc', width: 192, height: 108, qualities: [10, 14, 18, 22, 26, 30, 34] }];
    const { body } = await call<{ id: string }>('POST', 'trials', { programmeId: film.id, recipe, grid, share: 1 });
    await vi.waitUntil(async () => (await call<TrialView>('GET', `trials/${body.id}`)).body.excerpts !== null, {
      timeout: 20_000,
    });
    expect((await call<TrialView>('DELETE', `trials/${body.id}`)).body.state).toBe('stopped');
    await vi.waitUntil(() => enginesOn(folders.data).length === 0, { timeout: 5000 });
  });

  it('are left by a server that is told to go at any moment, leave no encoder, and go on with the next', async () => {
    const recipe = { ...RECIPE, video: { ...RECIPE.video, effort: 'thorough' } };
    const grid = [{ codec: 'h264', width: 192, height: 108, qualities: [13, 21, 29] }];
    const { body } = await call<{ id: string }>('POST', 'trials', { programmeId: film.id, recipe, grid, share: 1 });
    for (const wait of [700, 1300]) {
      await new Promise((resolve) => setTimeout(resolve, wait));
      await server.end('SIGTERM');
      expect(enginesOn(folders.data)).toEqual([]);
      server = await startServer(folders);
    }
    const trial = await ended(body.id);
    expect([trial.state, trial.gaps]).toEqual(['done', []]);
  });

  it('of what cannot be is a gap with its reason, or refused in a sentence', async () => {
    const grid = [
      { codec: 'h264', width: 192, height: 108, qualities: [26] },
      { codec: 'vp9', width: 16, height: 16, qualities: [30] },
    ];
    const { body } = await call<TrialPlan>('POST', 'trials?dry', {
      programmeId: film.id,
      recipe: { ...RECIPE, container: 'mov' },
      grid,
    });
    expect(body.points).toBe(1);
    expect(body.gaps).toMatchObject([{ codec: 'vp9', quality: 30, reason: expect.stringMatching(/\w/) as string }]);
    const off = await call<ErrorBody>('POST', 'trials', {
      ...{ programmeId: film.id, recipe: RECIPE },
      grid: [{ codec: 'h264', width: 192, height: 108, qualities: [99] }],
    });
    expect([off.status, off.body.error.field]).toEqual([400, 'grid[0].qualities']);
    const none = await call<ErrorBody>('POST', 'trials', {
      programmeId: film.id,
      recipe: { container: 'mp4', video: { codec: 'copy' }, audio: null },
    });
    expect([none.status, none.body.error.code]).toEqual([422, 'nothing-to-try']);
    expect((await call<ErrorBody>('GET', 'trials/none')).status).toBe(404);
  });
});
