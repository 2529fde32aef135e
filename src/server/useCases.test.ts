import {
  chmodSync,
  existsSync,
  linkSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs';
import { open } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { RenditionRequest } from '../contract/recipe.ts';
import type { ServerEvent } from '../contract/views.ts';
import { plainVideo, STARTING_RECIPE } from '../core/recipe/recipe.ts';
import { EngineError } from '../engine/engineError.ts';
import { FAIL_LOOK } from '../store/statements/programmes.ts';
import { makeContext } from '../testing/context.ts';
import { factsOf } from '../testing/facts.ts';
import { toRefusal } from './http.ts';
import { listMediaFolder, resolveMediaFile } from './programmes/mediaFolders.ts';
import { fingerprintFile } from './programmes/fingerprint.ts';
import { repointProgramme, requireUnchanged } from './programmes/masters.ts';
import { forgetProgramme, listProgrammes, takeIn } from './programmes/programmes.ts';
import { publishFile, removeTemporary, withdrawUnrecorded, temporaryPath } from './renditions/destination.ts';
import { qualityCsv, sceneQualities } from './renditions/frameQualities.ts';
import { packQualities } from './renditions/packedQualities.ts';
import { viewPlan } from './renditions/planOrder.ts';
import { getRendition, listRenditions, orderRendition, stopRendition } from './renditions/renditions.ts';
import { Refusal } from './refusal.ts';

const folder = mkdtempSync(path.join(tmpdir(), 'linstock-cases-'));
const media = path.join(folder, 'media');
const out = path.join(folder, 'out');
const file = (name: string) => path.join(media, name);

beforeAll(() => {
  mkdirSync(path.join(media, 'inner'), { recursive: true });
  mkdirSync(out);
  for (const name of ['b.mov', 'a10.mov', 'a9.mov', 'inner/deep.mov', '.hidden.mov']) writeFileSync(file(name), name);
  writeFileSync(path.join(folder, 'outside.mov'), 'outside');
  symlinkSync(path.join(folder, 'outside.mov'), file('leads-out.mov'));
  symlinkSync(file('nowhere.mov'), file('leads-nowhere.mov'));
  symlinkSync(file('b.mov'), file('leads-in.mov'));
});

describe('media folders', () => {
  it('are listed folders first, in the order people count', async () => {
    const { entries } = await listMediaFolder([media], media);
    expect(entries.map((entry) => entry.name)).toEqual(['inner', 'a9.mov', 'a10.mov', 'b.mov', 'leads-in.mov']);
    expect(entries.find((entry) => entry.name === 'b.mov')).toMatchObject({ kind: 'file', bytes: 5 });
  });

  it('lead up to their top and no further', async () => {
    expect((await listMediaFolder([media], path.join(media, 'inner'))).parent).toBe(media);
    expect((await listMediaFolder([media], media)).parent).toBeNull();
    expect((await listMediaFolder([media], null)).entries.map((entry) => entry.path)).toEqual([media]);
  });

  it.each([
    ['leads-in.mov', null],
    ['leads-out.mov', 'outside-media-folders'],
    ['../outside.mov', 'outside-media-folders'],
    ['inner/../../outside.mov', 'outside-media-folders'],
    ['b.mov\0.txt', 'outside-media-folders'],
    ['missing.mov', 'file-not-found'],
    ['inner', 'not-a-file'],
  ])('%j resolves to %s', async (name, code) => {
    const resolved = resolveMediaFile([media], `${media}/${name}`);
    if (code === null) await expect(resolved).resolves.toBe(file('b.mov'));
    else await expect(resolved).rejects.toMatchObject({ code });
  });

  it('with a name that begins alike are not each other', async () => {
    mkdirSync(`${media}-other`);
    writeFileSync(`${media}-other/x.mov`, 'x');
    await expect(resolveMediaFile([media], `${media}-other/x.mov`)).rejects.toMatchObject({
      code: 'outside-media-folders',
    });
  });
});

describe('giving a result its name', () => {
  it('never replaces a file, and numbers instead', async () => {
    const temporary = path.join(out, 'made.partial');
    writeFileSync(temporary, 'new');
    writeFileSync(path.join(out, 'film.mp4'), 'old');
    expect(await publishFile(temporary, path.join(out, 'film.mp4'))).toBe(path.join(out, 'film 2.mp4'));
    expect(readFileSync(path.join(out, 'film.mp4'), 'utf8')).toBe('old');
    expect(readFileSync(path.join(out, 'film 2.mp4'), 'utf8')).toBe('new');
  });

  it('leaves the file when only the temporary name goes', async () => {
    const final = path.join(out, 'kept.mp4');
    const temporary = temporaryPath(final, 'r1', 'one', 0);
    writeFileSync(temporary, 'kept');
    await publishFile(temporary, final);
    await removeTemporary(final, 'r1');
    expect(existsSync(temporary)).toBe(false);
    expect(readFileSync(final, 'utf8')).toBe('kept');
  });

  it('is undone when its attempt died before the record was written', async () => {
    const final = path.join(out, 'unrecorded.mp4');
    const temporary = temporaryPath(final, 'r2', 'one', 0);
    writeFileSync(temporary, 'half known');
    linkSync(temporary, final);
    await withdrawUnrecorded(final, 'r2');
    // What was made may still be gone on with.
    expect([existsSync(temporary), existsSync(final)]).toEqual([true, false]);
  });

  it('does not touch what others made', async () => {
    const final = path.join(out, 'theirs.mp4');
    writeFileSync(final, 'theirs');
    writeFileSync(temporaryPath(final, 'r3', 'one', 0), 'mine');
    writeFileSync(temporaryPath(final, 'r30', 'one', 0), 'another’s');
    await withdrawUnrecorded(final, 'r3');
    await removeTemporary(final, 'r3');
    expect(readFileSync(final, 'utf8')).toBe('theirs');
    expect(readdirSync(out).filter((name) => name.includes('r30'))).toHaveLength(1);
  });
});

describe('orders', () => {
  let context: Awaited<ReturnType<typeof makeContext>>;
  let request: RenditionRequest;
  const events: ServerEvent[] = [];

  beforeAll(async () => {
    writeFileSync(file('master.mov'), 'a master');
    context = await makeContext(folder, {
      probe: () =>
        Promise.resolve({
          facts: factsOf({ bytes: statSync(file('master.mov')).size }),
          frameTimes: null,
          spent: [],
          raw: {},
        }),
    });
    context.events.subscribe((event) => events.push(event));
    const programme = await takeIn(context, file('master.mov'));
    request = { programmeId: programme.id, recipe: STARTING_RECIPE, portion: null, name: null, keepFailed: false };
  });
  const list = async (programmeId: string | null = null) =>
    (await listRenditions(context, { programmeId, state: null, newest: false, after: null, limit: 200 })).rows;

  afterAll(() => context.database.close());

  // Root may read everything, so the test looks as somebody else for a moment.
  it.runIf(process.getuid?.() === 0)('a file nobody may read is refused with what to do', async () => {
    writeFileSync(file('locked.mov'), 'locked');
    chmodSync(file('locked.mov'), 0o600);
    chmodSync(folder, 0o755);
    process.seteuid?.('nobody');
    try {
      const attempt = takeIn(context, file('locked.mov'));
      await expect(attempt).rejects.toMatchObject({
        code: 'file-unreadable',
        message: expect.stringContaining('read permission') as string,
      });
    } finally {
      process.seteuid?.(0);
    }
  });

  it('a programme whose first look failed is looked at again when it is pointed to', async () => {
    const failed = JSON.stringify({ code: 'file-growing', message: 'Still being written.' });
    await context.database.query(FAIL_LOOK, [request.programmeId, failed]);
    const again = await repointProgramme(context, request.programmeId, file('master.mov'), false);
    expect(again).toMatchObject({ state: 'ready', frameCount: 1500 });
    expect(again.problem).toBeUndefined();
  });

  it('are planned without being queued', async () => {
    const plan = await viewPlan(context, {
      ...request,
      recipe: {
        ...STARTING_RECIPE,
        video: plainVideo('h264', { mode: 'size', bytes: 30_000_000 }, 'fast'),
      },
    });
    expect(plan).toMatchObject({
      width: 1280,
      height: 720,
      frameCount: 1500,
      expectedRange: { high: 30_000_000 },
      budget: { capBytes: 30_000_000, binds: 'cap' },
    });
    expect(await list()).toEqual([]);
  });

  it('are queued under a free name each, in order', async () => {
    const [first, second] = [await orderRendition(context, request), await orderRendition(context, request)];
    expect([first.name, second.name]).toEqual(['master 1280x720 h264.mp4', 'master 1280x720 h264 2.mp4']);
    expect((await list(request.programmeId)).map((rendition) => rendition.id)).toEqual([first.id, second.id]);
    expect(events.filter((event) => event.type === 'rendition')).toHaveLength(2);
  });

  it('are listed in pages, from either end, by state, with their counts', async () => {
    const all = { programmeId: null, state: null, newest: false, after: null, limit: 1 };
    const first = await listRenditions(context, all);
    expect([first.rows.length, first.counts]).toEqual([1, { queued: 2 }]);
    const second = await listRenditions(context, { ...all, after: Number(first.next) });
    expect(second.rows.map(({ name }) => name)).toEqual(['master 1280x720 h264 2.mp4']);
    expect((await listRenditions(context, { ...all, after: Number(second.next) })).rows).toEqual([]);
    const newest = await listRenditions(context, { ...all, newest: true });
    expect(newest.rows[0]?.id).toBe(second.rows[0]?.id);
    expect((await listRenditions(context, { ...all, state: ['done'] })).rows).toEqual([]);
    expect(first.rows[0]?.outline).toMatchObject({ codec: 'h264', width: 1280, height: 720, frameCount: 1500 });
    expect(first.rows[0]).not.toHaveProperty('plan');
  });

  it('hold their programme until they are stopped', async () => {
    await expect(forgetProgramme(context, request.programmeId)).rejects.toMatchObject({ code: 'programme-in-use' });
    for (const { id } of await list()) expect((await stopRendition(context, id)).state).toBe('stopped');
    context.tick(1000);
    const [first] = await list();
    const before = first!.finishedAt;
    expect((await stopRendition(context, first!.id)).finishedAt).toBe(before);
  });

  it('of a master that changed or went are refused', async () => {
    const master = { path: file('master.mov'), bytes: 8, modifiedAt: new Date(0), fingerprint: null };
    await expect(requireUnchanged({ ...master, path: file('gone.mov') })).rejects.toMatchObject({
      code: 'file-not-there',
    });
    await expect(requireUnchanged(master)).rejects.toMatchObject({ code: 'master-changed' });
  });

  it('of a master that was only touched are taken', async () => {
    const handle = await open(file('master.mov'));
    const fingerprint = await fingerprintFile(handle);
    await handle.close();
    const master = { path: file('master.mov'), bytes: 8, modifiedAt: new Date(0), fingerprint };
    await expect(requireUnchanged(master)).resolves.toBeUndefined();
    await expect(requireUnchanged({ ...master, bytes: 9 })).rejects.toMatchObject({ code: 'master-changed' });
  });

  it('have no qualities before they are measured, and a row per frame after', async () => {
    const [first] = await list();
    await expect(qualityCsv(context, first!.id)).rejects.toMatchObject({ code: 'not-found' });
    const frames = [
      { ssimLuma: 0.5, ssimAll: 0.75, mseLuma: 1, mseAll: 0 },
      { ssimLuma: 1, ssimAll: 1, mseLuma: 0, mseAll: 4 },
    ];
    await context.database.query('UPDATE rendition SET frames = $2 WHERE id = $1', [first!.id, packQualities(frames)]);
    expect(await qualityCsv(context, first!.id)).toBe(
      'frame,ssim_y,ssim_all,psnr_y,psnr_all\n0,0.500000,0.750000,48.131,100.000\n1,1.000000,1.000000,100.000,42.110\n',
    );
    const seen = packQualities(frames.map((frame) => ({ ...frame, mseWeighted: 1 })));
    await context.database.query('UPDATE rendition SET frames = $2 WHERE id = $1', [first!.id, seen]);
    expect(await qualityCsv(context, first!.id)).toBe(
      'frame,ssim_y,ssim_all,psnr_y,psnr_all,xpsnr_y\n0,0.500000,0.750000,48.131,100.000,48.131\n1,1.000000,1.000000,100.000,42.110,48.131\n',
    );
    expect(await sceneQualities(context, first!.id)).toMatchObject({ scenes: [{ inFrame: 0, outFrame: 1 }] });
  });

  it('are forgotten with their programme', async () => {
    const [first] = await list();
    await forgetProgramme(context, request.programmeId);
    expect((await listProgrammes(context, { after: null, limit: 200 })).rows).toEqual([]);
    await expect(getRendition(context, first!.id)).rejects.toMatchObject({ code: 'not-found' });
    expect(existsSync(file('master.mov'))).toBe(true);
  });
});

describe('answers', () => {
  it('carry the code, the sentence, the field and all faults', () => {
    const refusal = new Refusal('cap-below-floor', 'Too small.', {
      field: 'recipe.video.rate.bytes',
      all: [{ code: 'cap-below-floor', message: 'Too small.' }],
    });
    expect(refusal.status).toBe(422);
    expect(refusal.toBody()).toEqual({
      error: {
        code: 'cap-below-floor',
        message: 'Too small.',
        field: 'recipe.video.rate.bytes',
        all: [{ code: 'cap-below-floor', message: 'Too small.' }],
      },
    });
  });

  it('tell an engine’s refusal from a bug', () => {
    expect(toRefusal(new EngineError('engine-missing', 'Install it.'))).toMatchObject({
      code: 'engine-missing',
      status: 503,
    });
    expect(toRefusal(new TypeError('x is undefined'))).toMatchObject({ code: 'internal-error', status: 500 });
  });
});
