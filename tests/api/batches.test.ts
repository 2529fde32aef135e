import { statSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { BatchPlan, BatchView } from '../../src/contract/batch.ts';
import type { ScaleView } from '../../src/contract/trial.ts';
import type { BriefItem, BundleItem, RecipeItem } from '../../src/contract/shelf.ts';
import type { ErrorBody, ProgrammeView, RenditionView, WorkingOrderView } from '../../src/contract/views.ts';
import type { Advisory } from '../../src/core/advice/advisory.ts';
import { draw } from '../support/footage.ts';
import { drawFilms, PATIENT, QUICK } from '../support/quickOrder.ts';
import { makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
let server: TestServer;
let film: ProgrammeView;
let short: ProgrammeView;
let guide: ProgrammeView;

beforeAll(async () => {
  const films = drawFilms(folders.media);
  const spoken = draw(path.join(folders.media, 'guide.wav'), ['-f', 'lavfi', '-i', 'sine=frequency=300:duration=2']);
  server = await startServer(folders);
  film = await server.takeIn(films.film);
  short = await server.takeIn(films.short);
  guide = await server.takeIn(spoken);
});
afterAll(() => server.end('SIGTERM'));

const call = <Answer>(method: string, url: string, body?: unknown) => server.call<Answer>(method, url, body);

async function ended(id: string): Promise<BatchView> {
  const read = async () => (await call<BatchView>('GET', `batches/${id}`)).body;
  await expect.poll(async () => (await read()).state, { timeout: 60_000, interval: 100 }).toBe('done');
  return read();
}

describe('the shelf', () => {
  it('keeps recipes: saved, changed, put in order, deleted and brought back; what ships stays', async () => {
    const saved = (await call<RecipeItem>('POST', 'recipes', { name: 'Mine', tags: ['school'], recipe: QUICK })).body;
    expect(saved).toMatchObject({ name: 'Mine', tags: ['school'], isStock: false, recipe: { name: 'Mine' } });
    const other = (await call<RecipeItem>('POST', 'recipes', { name: 'Other', recipe: QUICK })).body;
    const changed = await call<RecipeItem>('PATCH', `recipes/${other.id}`, { notes: 'small', before: saved.id });
    expect(changed.body).toMatchObject({ notes: 'small', recipe: { picture: { fit: { height: 90 } } } });
    const names = async () => (await call<RecipeItem[]>('GET', 'recipes')).body.map(({ name }) => name);
    expect((await names()).slice(0, 2)).toEqual(['Other', 'Mine']);
    expect((await names()).length).toBe(14);
    expect((await call('DELETE', `recipes/${other.id}`)).status).toBe(204);
    expect(await names()).not.toContain('Other');
    await call('PATCH', `recipes/${other.id}`, { restored: true });
    expect(await names()).toContain('Other');
    const shipped = await call<ErrorBody>('PATCH', 'recipes/stock-web-720', { name: 'X' });
    expect([shipped.status, shipped.body.error.code]).toEqual([409, 'ships-unchanged']);
    const wrong = await call<ErrorBody>('POST', 'recipes', { name: 'X', recipe: { ...QUICK, colour: 1 } });
    expect(wrong.body.error.message).toContain('Unknown key: colour');
  });

  it('lets orders begin with one of them, as long as it is there', async () => {
    expect((await call('GET', 'defaults')).body).toEqual({ recipeId: null, folders: [] });
    const kept = await call('PUT', 'defaults', { recipeId: 'stock-open-720' });
    expect([kept.status, kept.body]).toEqual([200, { recipeId: 'stock-open-720', folders: [] }]);
    expect((await call('PUT', 'defaults', { recipeId: 'none' })).status).toBe(404);
    await call('PUT', 'defaults', { recipeId: null });
  });

  it('keeps bundles and briefs the same way', async () => {
    const bundle = await call<BundleItem>('POST', 'bundles', { name: 'Two', recipeIds: ['stock-web-480'] });
    expect(bundle.body).toMatchObject({ name: 'Two', recipeIds: ['stock-web-480'] });
    const brief = await call<BriefItem>('POST', 'briefs', { name: 'Tiny', brief: { maxBytes: 60_000 } });
    expect(brief.body.brief).toMatchObject({
      format: 'linstock.brief/1',
      name: 'Tiny',
      maxBytes: 60_000,
      codecs: null,
    });
    const wrong = await call<ErrorBody>('POST', 'briefs', { name: 'X', brief: { maxBytes: 'many' } });
    expect(wrong.body.error.field).toBe('brief.maxBytes');
  });
});

describe('many at once', () => {
  it('is told beforehand, with what cannot be and why, and refuses nothing else for it', async () => {
    const ids = [film.id, short.id, guide.id, 'gone'];
    const plan = await call<BatchPlan>('POST', 'batches?dry', { programmeIds: ids, recipes: [QUICK] });
    expect(plan.body.rows.map(({ state, reason }) => [state, reason?.code ?? null])).toEqual([
      ['ready', null],
      ['ready', null],
      ['cannot', 'no-picture'],
      ['cannot', 'not-found'],
    ]);
    expect(plan.body).toMatchObject({ files: 2 });
    expect(plan.body.programmeSeconds).toBeCloseTo(9, 1);
    const none = await call<ErrorBody>('POST', 'batches?dry', { programmeIds: [], recipes: [QUICK] });
    expect(none.status).toBe(400);
  });

  it('tells of each programme what was found in it, until its order sees to that', async () => {
    const boxes = 'testsrc2=size=320x132:rate=25:duration=2,pad=320:180:0:24';
    const boxed = draw(path.join(folders.media, 'boxed.mov'), [
      '-f',
      'lavfi',
      '-i',
      boxes,
      '-c:v',
      'mjpeg',
      '-q:v',
      '2',
    ]);
    const { id } = await server.takeIn(boxed);
    const planned = async (recipe: unknown) =>
      (await call<BatchPlan>('POST', 'batches?dry', { orders: [{ programmeId: id, recipe }] })).body;
    await expect.poll(async () => (await planned(QUICK)).notLookedAt, PATIENT).toBe(0);
    const [row] = (await planned(QUICK)).rows;
    const bars = row!.advisories.find(({ code }) => code === 'bars');
    expect(bars?.fix).toMatchObject({ kind: 'crop', crop: { top: 24, bottom: 24, left: 0, right: 0 } });
    const crop = { top: 24, bottom: 24, left: 0, right: 0 };
    const cropped = { ...QUICK, picture: { ...QUICK.picture, crop } };
    const mended = (await planned(cropped)).rows[0]!;
    expect(mended.state).toBe('ready');
    expect(mended.advisories.map(({ code }) => code)).not.toContain('bars');
    // What was made of it tells the same, before it is sent on.
    for (const [recipe, isTold] of [
      [QUICK, true],
      [cropped, false],
    ] as const) {
      const made = (await call<RenditionView>('POST', 'renditions', { programmeId: id, recipe })).body;
      const told = (await call<Advisory[]>('GET', `renditions/${made.id}/advisories`)).body;
      expect(told.some(({ code }) => code === 'bars')).toBe(isTold);
      await expect
        .poll(async () => (await call<RenditionView>('GET', `renditions/${made.id}`)).body.state, PATIENT)
        .toBe('done');
    }
  });

  it('counts back: asked = made + failed + stopped + left out', async () => {
    const asked = await call<{ id: string }>('POST', 'batches', {
      name: 'Tonight',
      orders: [
        { programmeId: film.id, recipe: QUICK },
        { programmeId: short.id, recipe: { ...QUICK, name: 'Other' } },
        { programmeId: guide.id, recipe: QUICK },
        { programmeId: short.id, recipe: QUICK, isLeftOut: true },
      ],
    });
    expect(asked.status).toBe(201);
    const batch = await ended(asked.body.id);
    expect(batch).toMatchObject({ name: 'Tonight', asked: 4, made: 2, failed: 0, stopped: 0, leftOut: 2, waiting: 0 });
    // The sound-only one may be tried again; what was left out by hand stays so.
    expect(batch.again).toBe(1);
    expect(batch.rows.map(({ state, recipeName }) => [state, recipeName])).toEqual([
      ['done', 'Quick'],
      ['done', 'Other'],
      ['left-out', 'Quick'],
      ['left-out', 'Quick'],
    ]);
    expect(batch.rows[2]?.reason).toBe('This programme has sound only; choose a sound-only rendition.');
    expect(batch.rows[3]?.reason).toBe('Left out by hand.');
    for (const row of batch.rows.slice(0, 2)) expect(statSync(row.path!).size).toBe(row.bytes);
    const one = (await call<RenditionView>('GET', `renditions/${batch.rows[0]!.renditionId}`)).body;
    expect(one).toMatchObject({ batch: { id: batch.id, name: 'Tonight' }, recipeName: 'Quick', paused: false });
    const report = await fetch(`${server.address}/api/batches/${batch.id}/report.csv`);
    const lines = (await report.text()).trim().split('\r\n');
    expect(lines).toHaveLength(5);
    expect(lines[1]).toContain(`,done,,${batch.rows[0]!.path},`);
    await call('POST', `batches/${batch.id}/again`);
    expect((await ended(batch.id)).rows.slice(2)).toEqual(batch.rows.slice(2));
    await call('POST', `batches/${batch.id}/again?row=3`);
    expect(await ended(batch.id)).toMatchObject({ made: 3, leftOut: 1, again: 1 });
    expect((await call<ErrorBody>('POST', `batches/${batch.id}/again?row=x`)).status).toBe(400);
  });

  it('shares one cap out so that all are at the same quality, and stays under it', async () => {
    const recipe = { ...QUICK, picture: { fit: { height: 120 } }, audio: null };
    const request = (bytes: number) => ({
      orders: [
        { programmeId: film.id, recipe },
        { programmeId: short.id, recipe },
        { programmeId: guide.id, recipe },
      ],
      together: { bytes },
    });
    const dry = async (bytes: number, measure = '') => call<BatchPlan>('POST', `batches?dry${measure}`, request(bytes));
    const early = await call<ErrorBody>('POST', 'batches', request(150_000));
    expect([early.status, early.body.error.field]).toEqual([400, 'together']);
    expect((await dry(150_000, '&measure')).body.together).toEqual({ bytes: 150_000, unknown: 2, by: null });
    await expect.poll(async () => (await dry(150_000)).body.together?.unknown, PATIENT).toBe(0);
    const { rows, together } = (await dry(150_000)).body;
    expect(together).toEqual({ bytes: 150_000, unknown: 0, by: 'quality' });
    const rates = rows.slice(0, 2).map(({ recipe: { video } }) => (video && 'rate' in video ? video.rate : null));
    const sizes = rates.map((rate) => (rate?.mode === 'size' ? rate.bytes : 0));
    expect(sizes[0]! + sizes[1]!).toBeLessThanOrEqual(150_000);
    expect(sizes[0]! + sizes[1]!).toBeGreaterThan(147_900);
    // Eight seconds of grain take far more than one of a pattern.
    expect(sizes[0]!).toBeGreaterThan(sizes[1]! * 3);
    // A frame size that is left open is reckoned with at its largest, and stays open.
    const open = { ...recipe, video: { ...recipe.video, rate: { mode: 'size', bytes: 9e6 } } };
    const opened = await call<BatchPlan>('POST', 'batches?dry', {
      orders: [{ programmeId: film.id, recipe: { ...open, picture: { fit: { height: 120, orSmaller: true } } } }],
      together: { bytes: 90_000 },
    });
    expect(opened.body.together).toEqual({ bytes: 90_000, unknown: 0, by: 'quality' });
    expect(opened.body.rows[0]?.recipe).toMatchObject({
      picture: { fit: { orSmaller: true } },
      video: { rate: { mode: 'size' } },
    });
    const tiny = await call<ErrorBody>('POST', 'batches?dry', request(500));
    expect([tiny.status, tiny.body.error.code]).toEqual([422, 'cap-below-floor']);
    expect(tiny.body.error.message).toMatch(/^These 2 files take at least \d+\.\d MB together/);
    const asked = await call<{ id: string }>('POST', 'batches', request(150_000));
    const batch = await ended(asked.body.id);
    expect(batch).toMatchObject({ asked: 3, made: 2, leftOut: 1 });
    expect(batch.rows.reduce((sum, { bytes }) => sum + (bytes ?? 0), 0)).toBeLessThanOrEqual(150_000);
  });

  it('gives each the size that one quality takes, by trials of each', async () => {
    const recipe = { ...QUICK, picture: { fit: { height: 180 } } };
    const orders = [film.id, short.id, guide.id].map((programmeId) => ({ programmeId, recipe }));
    const dry = async (decibels: number, measure = '') =>
      (await call<BatchPlan>('POST', `batches?dry${measure}`, { orders, together: { decibels } })).body;
    const early = await call<ErrorBody>('POST', 'batches', { orders, together: { decibels: 10 } });
    expect([early.status, early.body.error.field]).toEqual([400, 'together']);
    expect((await dry(10, '&measure')).together).toEqual({ decibels: 10, unknown: 2, short: 0, by: null });
    await expect.poll(async () => (await dry(10)).together?.unknown, { timeout: 100_000 }).toBe(0);
    // In the middle of what the first was tried at; scaled down and up again, its grain never comes near to the other.
    const { curves } = (await call<ScaleView>('GET', `programmes/${film.id}/scale`)).body;
    const values = curves.flatMap(({ points }) =>
      points.filter(({ kind }) => kind === 'tried').map(({ value }) => value),
    );
    const level = (Math.min(...values) + Math.max(...values)) / 2;
    expect((await dry(60)).together).toMatchObject({ short: 2, by: 'measured' });
    const asked = await call<{ id: string }>('POST', 'batches', { orders, together: { decibels: level } });
    const batch = await ended(asked.body.id);
    expect(batch).toMatchObject({ asked: 3, made: 2, leftOut: 1 });
    const made = await Promise.all(
      batch.rows
        .slice(0, 2)
        .map(async ({ renditionId }) => (await call<RenditionView>('GET', `renditions/${renditionId}`)).body),
    );
    for (const { recipe: ordered, quality } of made) {
      expect(ordered.video && 'rate' in ordered.video && ordered.video.rate.mode).toBe('quality');
      expect(quality!.ssim.meanDb).toBeGreaterThan(level - 0.1);
    }
    // A whole step to the finer side, and no more.
    expect(made[0]!.quality!.ssim.meanDb).toBeLessThan(level + 0.2);
    const both = await call<ErrorBody>('POST', 'batches?dry', { orders, together: { bytes: 1e6, decibels: 14 } });
    expect([both.status, both.body.error.field]).toEqual([400, 'together']);
  });

  it('bends to a brief, and every file is checked against it by measuring', async () => {
    const brief = (
      await call<BriefItem>('POST', 'briefs', {
        name: 'Small and plain',
        brief: {
          maxBytes: 90_000,
          maxHeight: 120,
          containers: ['mp4'],
          codecs: ['h264'],
          plainName: true,
          maxSeconds: 5,
        },
      })
    ).body;
    const request = { programmeIds: [film.id, short.id], briefId: brief.id };
    const plan = (await call<BatchPlan>('POST', 'batches?dry', request)).body;
    expect(plan.rows[0]).toMatchObject({ state: 'cannot', reason: { code: 'unsuited' } });
    expect(plan.rows[0]?.reason?.message).toBe('It takes at most 5 s, and this is 8.0 s long; mark a portion.');
    expect(plan.rows[1]).toMatchObject({ state: 'ready', bent: ['rate', 'frame size'] });
    const batch = await ended((await call<{ id: string }>('POST', 'batches', request)).body.id);
    expect(batch).toMatchObject({ made: 1, leftOut: 1 });
    const made = (await call<RenditionView>('GET', `renditions/${batch.rows[1]!.renditionId}`)).body;
    expect(path.basename(made.path)).toMatch(/^[A-Za-z0-9_-]+\.mp4$/);
    const rules = made.checks.filter(({ ofBrief }) => ofBrief);
    expect(rules.map(({ name }) => name)).toEqual([
      'Brief: Size',
      'Brief: Container',
      'Brief: Length',
      'Brief: File name',
      'Brief: Height',
      'Brief: Picture codec',
    ]);
    expect(rules.filter(({ ok }) => !ok)).toEqual([]);
    expect(made.bytes).toBeLessThanOrEqual(90_000);
  });

  it('bends frame rate and loudness to a brief, and measures both', async () => {
    const wanted = { maxFrameRate: { num: 15, den: 1 }, loudness: { lufs: -20, within: 0.5, maxTruePeakDbtp: -2 } };
    const brief = (await call<BriefItem>('POST', 'briefs', { name: 'Few and even', brief: wanted })).body;
    const orders = [{ programmeId: film.id, recipe: QUICK }];
    const asked = await call<{ id: string }>('POST', 'batches', { orders, briefId: brief.id });
    const batch = await ended(asked.body.id);
    expect(batch).toMatchObject({ asked: 1, made: 1 });
    const made = (await call<RenditionView>('GET', `renditions/${batch.rows[0]!.renditionId}`)).body;
    expect(made.sentence).toContain('at most 15 fps');
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    const found = new Map(made.checks.map((check) => [check.name, check.found]));
    expect(found.get('Brief: Frame rate')).toBe('12.500 fps');
    expect(found.get('Frames')).toBe('100');
    expect(found.get('Sound is as loud as asked')).toMatch(/^−(19\.[5-9]|20\.[0-5]) LUFS/);
    // The same frame of both: the last of the result shows the last but one of the master.
    const [ofResult, ofMaster] = await Promise.all(
      ['frames/99', 'master/99'].map((what) => server.call('GET', `renditions/${made.id}/${what}`)),
    );
    expect([ofResult!.status, ofMaster!.status]).toEqual([200, 200]);
  });

  it('checks a single order against the brief that it is for, and remembers which', async () => {
    const brief = (
      await call<BriefItem>('POST', 'briefs', { name: 'Low and small', brief: { maxHeight: 60, maxBytes: 1_000_000 } })
    ).body;
    const kept = { recipe: QUICK, briefId: brief.id };
    await call('PUT', `programmes/${short.id}/order`, kept);
    const { body: order } = await call<WorkingOrderView>('GET', `programmes/${short.id}/order`);
    expect(order.briefId).toBe(brief.id);
    const asked = { programmeId: short.id, recipe: QUICK, briefId: brief.id };
    const { body } = await call<RenditionView>('POST', 'renditions', asked);
    const made = await server.waitFor(body.id);
    expect(made.checks.filter(({ ofBrief }) => ofBrief).map(({ name, ok }) => [name, ok])).toEqual([
      ['Brief: Size', true],
      ['Brief: Height', false],
    ]);
    const unknown = await call<ErrorBody>('POST', 'renditions', { ...asked, briefId: 'nowhere' });
    expect([unknown.status, unknown.body.error.code]).toEqual([404, 'not-found']);
  });

  it('tries again what was stopped, and nothing else', async () => {
    await call('PATCH', 'queue', { paused: true });
    const { id } = (
      await call<{ id: string }>('POST', 'batches', { programmeIds: [short.id], recipes: [QUICK, 'stock-web-480'] })
    ).body;
    const waiting = async () => (await call<BatchView>('GET', `batches/${id}`)).body;
    await expect.poll(async () => (await waiting()).rows.every(({ state }) => state === 'queued'), PATIENT).toBe(true);
    await call('DELETE', `renditions/${(await waiting()).rows[0]!.renditionId}`);
    expect(await waiting()).toMatchObject({ stopped: 1, waiting: 1 });
    const kept = (await waiting()).rows[1]!.renditionId;
    await call('POST', `batches/${id}/again`);
    await expect.poll(async () => (await waiting()).stopped, PATIENT).toBe(0);
    await call('PATCH', 'queue', { paused: false });
    const batch = await ended(id);
    expect(batch).toMatchObject({ asked: 2, made: 2 });
    expect(batch.rows[1]!.renditionId).toBe(kept);
  });
});
