import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { cutFrames } from '../../src/engine/parsing/packets.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const inFolder = (name: string) => path.join(folder, name);

/** Every master has 100 frames, and a keyframe every 20. */
const PORTION = { inFrame: 27, outFrame: 63 };
const TAKEN = { inFrame: 20, outFrame: 79 };

beforeAll(() => {
  const picture = (rate: string) => ['-f', 'lavfi', '-i', `testsrc2=s=160x90:r=${rate}:d=4`];
  const clicks = ['-f', 'lavfi', '-i', 'aevalsrc=if(lt(mod(t\\,0.5)\\,0.01)\\,0.8*sin(2*PI*1000*t)\\,0):s=48000:d=4'];
  const length = ['-frames:v', '100', '-pix_fmt', 'yuv420p'];
  const x264 = ['-c:v', 'libx264', '-preset', 'veryfast', '-g', '20', '-sc_threshold', '0', '-bf', '2'];
  draw(inFolder('web.mp4'), [...picture('25'), ...clicks, ...length, ...x264, '-c:a', 'aac']);
  draw(inFolder('fractional.mkv'), [...picture('30000/1001'), ...clicks, ...length, ...x264, '-c:a', 'libopus']);
  draw(inFolder('open.webm'), [
    ...picture('25'),
    ...clicks,
    ...length,
    ...['-c:v', 'libvpx-vp9', '-cpu-used', '8', '-g', '20', '-c:a', 'libopus'],
  ]);
  draw(inFolder('late.mkv'), [
    ...picture('25').slice(0, 2),
    ...['-itsoffset', '0.2', ...picture('25').slice(2)],
    ...clicks,
    ...length,
    ...[...x264, '-c:a', 'pcm_s16le'],
  ]);
  draw(inFolder('leading.mp4'), [
    ...picture('25'),
    ...length.slice(0, 2),
    ...['-pix_fmt', 'yuv420p', '-c:v', 'libx265', '-preset', 'ultrafast'],
    ...['-x265-params', 'log-level=none:keyint=20:min-keyint=20:scenecut=0:bframes=3:open-gop=1'],
  ]);
});

/** A digest of each decoded frame. */
function framesOf(file: string): string[] {
  const args = ['-v', 'error', '-i', file, '-map', '0:v:0', '-fps_mode', 'passthrough', '-f', 'framemd5', '-'];
  return execFileSync('ffmpeg', args, { encoding: 'utf8' })
    .split('\n')
    .filter((line) => line && !line.startsWith('#'))
    .map((line) => line.split(',').at(-1)!.trim());
}

/** When the first click is heard, so many seconds or more after the first picture; counted from it. */
function clickSeconds(file: string, after = 0): number {
  const listing = execFileSync('ffprobe', [
    ...['-v', 'error', '-select_streams', 'v:0', '-show_entries', 'packet=pts_time', '-of', 'csv=p=0', file],
  ]).toString();
  const seen = Math.min(...listing.trim().split('\n').map(parseFloat));
  // On the file's own clock, as players have it.
  const args = ['-v', 'error', '-copyts', '-i', file, '-map', '0:a:0', '-af', 'aresample=48000:async=1:first_pts=0'];
  const raw = execFileSync('ffmpeg', [...args, '-ac', '1', '-f', 's16le', '-'], { maxBuffer: 32e6 });
  const samples = new Int16Array(raw.buffer, raw.byteOffset, raw.length / 2);
  const from = Math.round((seen + after) * 48000);
  return samples.findIndex((one, index) => index >= from && Math.abs(one) > 6000) / 48000 - seen;
}

const COPY = { codec: 'copy' };
const NO_PREPARATION = { picture: {} };

describe('a copied portion', () => {
  it.each([
    ['web.mp4', 'mp4'],
    ['web.mp4', 'mov'],
    ['web.mp4', 'matroska'],
    ['fractional.mkv', 'mp4'],
    ['fractional.mkv', 'matroska'],
    ['open.webm', 'webm'],
    ['late.mkv', 'mov'],
  ])('of %s in %s holds the master’s own frames, keyframe to keyframe, in step', async (name, container) => {
    const master = inFolder(name);
    const recipe = { container, video: COPY, audio: COPY, ...NO_PREPARATION };
    const made = await makeRendition(engine, folder, master, recipe, PORTION);
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(made.plan.span).toMatchObject({ inFrame: TAKEN.inFrame, frameCount: 60 });
    expect(framesOf(made.file)).toEqual(framesOf(master).slice(TAKEN.inFrame, TAKEN.outFrame + 1));
    const began = made.plan.span.startSeconds;
    const expected = clickSeconds(master, began) - began;
    // Matroska and WebM may count the pre-skip of Opus, 6.5 ms, once more or less.
    const limit = container === 'matroska' || container === 'webm' ? 0.007 : 0.003;
    expect(Math.abs(clickSeconds(made.file) - expected)).toBeLessThan(limit);
    const said = made.plan.advisories.find(({ code }) => code === 'copy-takes-more');
    expect(said?.message).toContain('it takes frames 20 to 79, 7 frames before and 16 frames after what is marked');
    expect(said?.fix).toMatchObject({ kind: 'portion', portion: TAKEN });
  });

  it('begins only where no frame after a keyframe is shown before it', async () => {
    const tally = (await engine.inspect(inFolder('leading.mp4'))).tallies.get(0)!;
    expect(tally.keyframes).toBeGreaterThan(3);
    expect(cutFrames(tally)).toEqual([0]);
    const recipe = { container: 'mp4', video: COPY, audio: null, ...NO_PREPARATION };
    const made = await makeRendition(engine, folder, inFolder('leading.mp4'), recipe, PORTION);
    expect(made.plan.span).toMatchObject({ inFrame: 0, frameCount: 100 });
    expect(framesOf(made.file)).toEqual(framesOf(inFolder('leading.mp4')));
  });

  it('of the picture goes beside encoded sound, and copied sound beside an encoded portion', async () => {
    const sound = { codec: 'opus', kbps: 96 };
    const recipe = { container: 'mp4', video: COPY, audio: sound, ...NO_PREPARATION };
    const picture = await makeRendition(engine, folder, inFolder('web.mp4'), recipe, PORTION);
    expect(picture.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(Math.abs(clickSeconds(picture.file) - 0.2)).toBeLessThan(0.002);

    const video = { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 30 } };
    for (const container of ['mp4', 'matroska']) {
      const made = await makeRendition(engine, folder, inFolder('web.mp4'), { container, video, audio: COPY }, PORTION);
      expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
      expect(pictureOf(made.plan)?.out.frameCount).toBe(37);
      // The portion begins at 1.08 s, and the next click is at 1.5 s.
      expect(Math.abs(clickSeconds(made.file) - 0.42)).toBeLessThan(0.003);
    }
  });
});
