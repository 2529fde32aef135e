import { execFileSync, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import type {
  CutsView,
  ErrorBody,
  FrameTimesView,
  PlanView,
  ProgrammeView,
  RenditionView,
} from '../../src/contract/views.ts';
import { draw, drawMaster } from '../support/footage.ts';
import { enginesOn, makeFolders, startServer, type TestServer } from '../support/server.ts';

const folders = makeFolders();
let server: TestServer;
let programme: ProgrammeView;
let guide: ProgrammeView;

const recipe = (rate: object, changes: object = {}) => ({
  video: { codec: 'h264', effort: 'fast', rate },
  audio: { codec: 'aac', kbps: 64, channels: 'mono' },
  ...changes,
});
const order = async (body: object): Promise<RenditionView> => {
  const answer = await server.call<RenditionView>('POST', 'renditions', { programmeId: programme.id, ...body });
  expect(answer.status).toBe(201);
  return answer.body;
};

beforeAll(async () => {
  mkdirSync(folders.media, { recursive: true });
  drawMaster(path.join(folders.media, 'master.mov'), { seconds: 6, rate: '30000/1001', size: '640x360', grain: 18 });
  draw(path.join(folders.media, 'guide.wav'), ['-f', 'lavfi', '-i', 'sine=frequency=300:sample_rate=44100:duration=5']);
  server = await startServer(folders);
  programme = await server.takeIn(path.join(folders.media, 'master.mov'));
  guide = await server.takeIn(path.join(folders.media, 'guide.wav'));
});
afterAll(() => server.end('SIGTERM'));

describe('a size to fill', () => {
  it.each([
    ['h264', 700_000, 360],
    ['h264', 260_000, 180],
    ['hevc', 150_000, 180],
  ])('%s, %i bytes at %i lines: never over, filled, verified', async (codec, bytes, height) => {
    const rendition = await order({
      recipe: recipe(
        { mode: 'size', bytes },
        { video: { codec, effort: 'fast', rate: { mode: 'size', bytes } }, picture: { fit: { height } } },
      ),
    });
    const done = await server.waitFor(rendition.id);
    expect(done.problem).toBeUndefined();
    expect(done.state).toBe('done');
    expect(done.bytes).toBeLessThanOrEqual(bytes);
    expect(done.bytes).toBeGreaterThanOrEqual(bytes * 0.99);
    expect(statSync(done.path).size).toBe(done.bytes);
    expect(done.fill?.secondPasses.length).toBeLessThanOrEqual(5);
    expect(done.checks.every((check) => check.ok)).toBe(true);
    expect(done.checks.length).toBeGreaterThanOrEqual(9);
    expect(done.quality?.ssim.mean).toBeGreaterThan(0.5);
    expect(done.fraction).toBe(1);
  });

  it('stops where the eye gains nothing', async () => {
    const rendition = await order({
      recipe: recipe({ mode: 'size', bytes: 90_000_000 }, { picture: { fit: { height: 90 } } }),
    });
    const done = await server.waitFor(rendition.id);
    expect(done.problem).toBeUndefined();
    expect(done).toMatchObject({ state: 'done', fill: { outcome: 'saturated' } });
    expect(done.bytes).toBeLessThan(20_000_000);
  });

  it('below what the encoder reaches is failed with what would fit, and leaves nothing', async () => {
    // At this size it was not sounded before, so that only its turn shows what it takes.
    const rate = { mode: 'size', bytes: 10_000 };
    const changes = { video: { codec: 'hevc', effort: 'fast', rate }, picture: { fit: { height: 144 } }, audio: null };
    const rendition = await order({ recipe: recipe(rate, changes) });
    const failed = await server.waitFor(rendition.id);
    expect(failed).toMatchObject({ state: 'failed', problem: { code: 'cap-below-floor' }, hasFile: false });
    expect(failed.problem?.message).toMatch(/smallest file at 256 × 144 was [\d,]+ bytes/);
    expect(existsSync(failed.path)).toBe(false);
    expect(readdirSync(folders.output).filter((name) => name.includes('partial'))).toEqual([]);
  });
});

describe('other orders', () => {
  it('are named as the recipe says, by a number where that is taken, and tell of themselves what is asked for', async () => {
    const file = { name: '{recipe} - {programme} ({portion}) {height}p{fps}', metadata: { title: 'Dusk' } };
    const asked = recipe(
      { mode: 'quality', value: 40 },
      { name: 'Small: web', picture: { fit: { height: 90 } }, file },
    );
    const of = (portion: object | null) => order({ recipe: asked, portion });
    const made = [
      await of(null),
      await of({ inFrame: 0, outFrame: 20, name: 'Start' }),
      await of({ inFrame: 0, outFrame: 9, name: 'Start' }),
    ];
    expect(made.map(({ path: file }) => path.basename(file))).toEqual([
      'Small- web - master 90p29.97.mp4',
      'Small- web - master (Start) 90p29.97.mp4',
      'Small- web - master (Start) 90p29.97 2.mp4',
    ]);
    const done = await server.waitFor(made[2]!.id);
    expect(done.checks).toContainEqual(expect.objectContaining({ name: 'The file tells its title', found: 'Dusk' }));
    const wrong = await server.call<{ error: { field: string; message: string } }>('POST', 'renditions', {
      programmeId: programme.id,
      recipe: { ...asked, file: { name: '{title}' } },
    });
    expect(wrong.status).toBe(400);
    expect(wrong.body.error).toMatchObject({
      field: 'recipe.file.name',
      message: expect.stringMatching(/There is no \{title\}/),
    });
  });

  it('an average rate in two passes comes near its plan', async () => {
    const body = { programmeId: programme.id, recipe: recipe({ mode: 'average', kbps: 600, passes: 2 }) };
    const plan = (await server.call<PlanView>('POST', 'plan', body)).body;
    const done = await server.waitFor((await order(body)).id);
    expect(done.state).toBe('done');
    expect(done.bytes).toBeGreaterThan(plan.expectedRange!.low);
    expect(done.bytes).toBeLessThan(plan.expectedRange!.high);
  });

  it('a portion is cut to the frame, its sound with it', async () => {
    const done = await server.waitFor(
      (await order({ recipe: recipe({ mode: 'quality', value: 8 }), portion: { inFrame: 31, outFrame: 90 } })).id,
    );
    expect(done.state).toBe('done');
    expect(done.checks.find((check) => check.name === 'Frames')).toMatchObject({ expected: '60', found: '60' });
    // The portion's frames are compared with the very same of the master; one off would show at once.
    expect(done.quality?.ssim.low).toBeGreaterThan(0.95);
  });

  it.each([
    ['phone.mp4', 'N+floor(N/7)*3+mod(N,3)*0.3', 'h264'],
    // Rounded to whole thirtieths some frames share a time.
    ['shared.mp4', 'floor(N*0.9)+floor(N/7)*3', 'h264'],
    // Its last frame is held for more than a second.
    ['held.mp4', 'N+floor(N/7)+37*gte(N,70)', 'hevc'],
  ] as const)('a portion of a variable rate keeps its frames and their times: %s', async (name, time, codec) => {
    const file = draw(path.join(folders.media, name), [
      ...['-f', 'lavfi', '-i', `testsrc2=s=320x180:r=30:d=3,settb=1/90000,setpts='(${time})*3000'`],
      ...['-f', 'lavfi', '-i', 'sine=frequency=440:sample_rate=48000:duration=4.2'],
      ...['-fps_mode', 'passthrough', '-enc_time_base', '1:90000', '-video_track_timescale', '90000'],
      ...['-c:v', 'libx264', '-crf', '8', '-g', '45', '-pix_fmt', 'yuv420p', '-c:a', 'aac'],
    ]);
    const phone = await server.takeIn(file);
    expect(phone.video?.constantRate).toBe(false);
    const { body: times } = await server.call<FrameTimesView>('GET', `programmes/${phone.id}/frame-times`);
    const { body: rendition } = await server.call<RenditionView>('POST', 'renditions', {
      programmeId: phone.id,
      recipe: recipe(
        { mode: 'quality', value: 8 },
        { video: { codec, effort: 'fast', rate: { mode: 'quality', value: 8 } } },
      ),
      portion: { inFrame: 20, outFrame: 69 },
    });
    const done = await server.waitFor(rendition.id);
    expect(done.checks.filter((check) => !check.ok)).toEqual([]);
    expect(done.state).toBe('done');
    expect(done.quality?.ssim.low).toBeGreaterThan(0.95);
    const found = JSON.parse(
      execFileSync(
        'ffprobe',
        [...'-v error -select_streams v -show_entries packet=pts_time -of json'.split(' '), done.path],
        { encoding: 'utf8' },
      ),
    ) as { packets: { pts_time: string }[] };
    const stamps = found.packets.map(({ pts_time }) => Number(pts_time)).toSorted((a, b) => a - b);
    const expected = times.seconds!.slice(20, 70).map((time) => time - times.seconds![20]!);
    expect(stamps).toHaveLength(50);
    // Where two share a time the second follows by the least there is, 1/90,000 s.
    stamps.forEach((stamp, frame) => expect(Math.abs(stamp - expected[frame]!)).toBeLessThan(0.00003));
  });

  it('bars are cropped off and fields become frames, and the result is compared with just that', async () => {
    const bars = 'scale=320:140,pad=320:180:0:20,setsar=1';
    const file = draw(path.join(folders.media, 'tape.mov'), [
      ...['-f', 'lavfi', '-i', `testsrc2=s=320x180:r=50:d=4,${bars},tinterlace=mode=interleave_top,setfield=tff`],
      ...['-c:v', 'libx264', '-flags', '+ilme+ildct', '-crf', '4', '-pix_fmt', 'yuv420p', '-an'],
    ]);
    const tape = await server.takeIn(file);
    const crop = { top: 20, bottom: 20, left: 0, right: 0 };
    const { body: rendition } = await server.call<RenditionView>('POST', 'renditions', {
      programmeId: tape.id,
      recipe: recipe({ mode: 'quality', value: 6 }, { audio: null, picture: { crop, deinterlace: 'top-first' } }),
    });
    const done = await server.waitFor(rendition.id);
    expect(done.checks.filter((check) => !check.ok)).toEqual([]);
    expect(pictureOf(done.plan)?.out).toMatchObject({ size: { width: 320, height: 140 }, frameCount: 100 });
    expect(done.quality?.ssim.low).toBeGreaterThan(0.97);
    expect(done.quality?.scaler).toContain('320 × 140');
    const master = await fetch(`${server.address}/api/renditions/${done.id}/master/50`);
    const result = await fetch(`${server.address}/api/renditions/${done.id}/frames/50`);
    // Width and height stand at bytes 16 to 23 of a PNG (ISO/IEC 15948).
    for (const answer of [master, result]) {
      const head = Buffer.from(await answer.arrayBuffer());
      expect([head.readUInt32BE(16), head.readUInt32BE(20)]).toEqual([320, 140]);
    }
  });

  it('a small master is copied, frame for frame, and refused where a copy cannot be', async () => {
    const file = draw(path.join(folders.media, 'small.mkv'), [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=25:d=4', '-f', 'lavfi', '-i', 'sine=frequency=440:duration=4'],
      ...['-c:v', 'libx264', '-g', '30', '-pix_fmt', 'yuv420p', '-c:a', 'aac'],
    ]);
    const small = await server.takeIn(file);
    const copying = { video: { codec: 'copy' }, audio: { codec: 'copy' } };
    const { body: plan } = await server.call<PlanView>('POST', 'plan', { programmeId: small.id, recipe: copying });
    const { body: rendition } = await server.call<RenditionView>('POST', 'renditions', {
      programmeId: small.id,
      recipe: copying,
    });
    const done = await server.waitFor(rendition.id);
    expect(done.checks.filter((check) => !check.ok)).toEqual([]);
    expect(done).toMatchObject({ state: 'done', quality: { ssim: { low: 1 } }, passes: 1 });
    expect(Math.abs(done.bytes! / plan.expectedBytes! - 1)).toBeLessThan(0.01);
    const result = await fetch(`${server.address}/api/renditions/${done.id}/frames/61`);
    const master = await fetch(`${server.address}/api/renditions/${done.id}/master/61`);
    expect(Buffer.from(await result.arrayBuffer()).equals(Buffer.from(await master.arrayBuffer()))).toBe(true);

    const portion = { inFrame: 10, outFrame: 20 };
    const part = await server.call<RenditionView>('POST', 'renditions', {
      programmeId: small.id,
      recipe: copying,
      portion,
    });
    // From keyframe to keyframe.
    expect(part.body.portion).toEqual({ inFrame: 0, outFrame: 29 });
    const cut = await server.waitFor(part.body.id);
    expect(cut.checks.filter((check) => !check.ok)).toEqual([]);
    expect(cut).toMatchObject({ state: 'done', quality: { ssim: { low: 1 } }, outline: { frameCount: 30 } });
    const { body: cuts } = await server.call<CutsView>('GET', `programmes/${small.id}/cuts`);
    expect(cuts.frames).toEqual([0, 30, 60, 90]);
    const refused = await server.call<ErrorBody>('POST', 'plan', {
      programmeId: small.id,
      recipe: { ...copying, picture: { fit: { height: 90 } } },
    });
    expect([refused.status, refused.body.error.code, refused.body.error.field]).toEqual([
      422,
      'copy-cannot',
      'recipe.picture',
    ]);
    const mixed = await server.call<PlanView>('POST', 'plan', {
      programmeId: programme.id,
      recipe: { ...copying, audio: { codec: 'aac' } },
    });
    expect(mixed.body.passes).toEqual(['sound', 'copy']);
  });

  it('sound only, of a programme with sound only', async () => {
    const answer = await server.call<RenditionView>('POST', 'renditions', {
      programmeId: guide.id,
      recipe: { video: null, audio: { codec: 'aac', kbps: 64, channels: 'mono' } },
    });
    const done = await server.waitFor(answer.body.id);
    expect(done).toMatchObject({ state: 'done', quality: null });
    expect(done.name).toMatch(/\.m4a$/);
  });

  it('a programme with sound only has no picture to encode', async () => {
    const { status, body } = await server.call<ErrorBody>('POST', 'plan', {
      programmeId: guide.id,
      recipe: recipe({ mode: 'quality', value: 23 }),
    });
    expect({ status, code: body.error.code, field: body.error.field }).toEqual({
      status: 422,
      code: 'no-picture',
      field: 'recipe.video',
    });
  });

  it('one stopped leaves nothing and the next goes on', async () => {
    const slow = await order({
      recipe: recipe(
        { mode: 'average', kbps: 3000, passes: 2 },
        { video: { codec: 'hevc', effort: 'thorough', rate: { mode: 'average', kbps: 3000, passes: 2 } } },
      ),
    });
    const next = await order({ recipe: recipe({ mode: 'quality', value: 35 }) });
    await server.waitFor(slow.id, (rendition) => rendition.state === 'running' && rendition.fraction > 0.05);
    expect((await server.call<RenditionView>('DELETE', `renditions/${slow.id}`)).body.state).toBe('stopped');
    expect((await server.waitFor(next.id)).state).toBe('done');
    expect(existsSync(slow.path)).toBe(false);
    expect(readdirSync(folders.output).filter((name) => name.includes(slow.id))).toEqual([]);
    expect(enginesOn(folders.root)).toEqual([]);
  });
});

describe('a finished rendition', () => {
  it('hands out its bytes, ranges and qualities', async () => {
    const done = await server.waitFor(
      (await order({ recipe: recipe({ mode: 'quality', value: 32 }), name: 'handed out.mp4' })).id,
    );
    const whole = await fetch(`${server.address}/api/renditions/${done.id}/file`);
    expect(whole.headers.get('content-length')).toBe(String(done.bytes));
    expect(Buffer.from(await whole.arrayBuffer()).equals(readFileSync(done.path))).toBe(true);
    const part = await fetch(`${server.address}/api/renditions/${done.id}/file`, {
      headers: { range: 'bytes=100-199' },
    });
    expect(part.status).toBe(206);
    expect(Buffer.from(await part.arrayBuffer()).equals(readFileSync(done.path).subarray(100, 200))).toBe(true);
    const { body: csv } = await server.call<string>('GET', `renditions/${done.id}/quality.csv`);
    const rows = csv
      .trim()
      .split('\n')
      .slice(1)
      .map((row) => row.split(',').map(Number));
    expect(rows).toHaveLength(programme.frameCount);
    const mean = rows.reduce((sum, row) => sum + row[2]!, 0) / rows.length;
    expect(mean).toBeCloseTo(done.quality!.ssim.mean, 5);
    expect(rows[done.quality!.ssim.lowFrame]?.[2]).toBeCloseTo(done.quality!.ssim.low, 5);
  });

  it('measures as the engine’s own filters do when run by hand', async () => {
    const done = await server.waitFor((await order({ recipe: recipe({ mode: 'quality', value: 28 }) })).id);
    const graph =
      '[0:v]settb=AVTB,setpts=N/30/TB,split[a][b];[1:v]settb=AVTB,setpts=N/30/TB,split[c][d];[a][c]ssim[x];[b][d]psnr[y]';
    const run = spawnSync(
      'ffmpeg',
      [
        '-nostdin',
        '-i',
        done.path,
        '-i',
        programme.path,
        '-lavfi',
        graph,
        '-map',
        '[x]',
        '-f',
        'null',
        '-',
        '-map',
        '[y]',
        '-f',
        'null',
        '-',
      ],
      { encoding: 'utf8' },
    );
    expect(done.quality?.ssim.mean).toBeCloseTo(Number(/SSIM .*All:([\d.]+)/.exec(run.stderr)?.[1]), 4);
    expect(done.quality?.psnr.mean).toBeCloseTo(Number(/PSNR .*average:([\d.]+)/.exec(run.stderr)?.[1]), 1);
  });
});

describe('names', () => {
  it('that exist are refused with a free one, and proposed ones are numbered', async () => {
    mkdirSync(folders.output, { recursive: true });
    writeFileSync(path.join(folders.output, 'precious.mp4'), 'do not replace');
    const { status, body } = await server.call<ErrorBody>('POST', 'renditions', {
      programmeId: programme.id,
      recipe: recipe({ mode: 'quality', value: 30 }),
      name: 'precious.mp4',
    });
    expect({ status, code: body.error.code, field: body.error.field }).toEqual({
      status: 409,
      code: 'output-exists',
      field: 'name',
    });
    expect(body.error.message).toContain('precious 2.mp4');
    expect(readFileSync(path.join(folders.output, 'precious.mp4'), 'utf8')).toBe('do not replace');
  });

  it('with folders in them are refused', async () => {
    const { status, body } = await server.call<ErrorBody>('POST', 'renditions', {
      programmeId: programme.id,
      recipe: recipe({ mode: 'quality', value: 30 }),
      name: '../escape.mp4',
    });
    expect({ status, code: body.error.code }).toEqual({ status: 422, code: 'name-unusable' });
  });
});
