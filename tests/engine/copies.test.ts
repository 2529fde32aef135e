import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { createEngine } from '../../src/engine/createEngine.ts';
import { draw, makeFolder } from '../support/footage.ts';
import { makeRendition } from '../support/encode.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const inFolder = (name: string) => path.join(folder, name);

beforeAll(() => {
  const picture = ['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=1'];
  const sound = ['-f', 'lavfi', '-i', 'sine=440:r=48000:d=1'];
  const web = ['-c:v', 'libx264', '-preset', 'veryfast', '-pix_fmt', 'yuv420p', '-c:a', 'aac', '-shortest'];
  draw(inFolder('web.mp4'), [...picture, ...sound, ...web]);
  // The picture begins a fifth of a second after the sound.
  const late = [...picture.slice(0, 2), '-itsoffset', '0.2', ...picture.slice(2)];
  draw(inFolder('late.mkv'), [...late, ...sound, ...web]);
  draw(inFolder('open.mkv'), [...picture, ...sound, '-c:v', 'libvpx-vp9', '-cpu-used', '8', '-c:a', 'libopus']);
});

/** A digest of the packets of one kind, which copying leaves alone. */
function packetsOf(file: string, kind: 'v' | 'a'): string {
  const args = ['-v', 'error', '-i', file, '-map', `0:${kind}:0`, '-c', 'copy', '-f', 'streamhash', '-'];
  return execFileSync('ffmpeg', args, { encoding: 'utf8' }).replace(/^\d/, '');
}

/** When each begins to be shown or heard; what the container marks as not to be is left out. */
function startsOf(file: string): { picture: number; sound: number } {
  const args = ['-v', 'error', '-show_entries', 'packet=codec_type,pts_time,flags', '-of', 'csv=p=0', file];
  const rows = execFileSync('ffprobe', args, { encoding: 'utf8' })
    .trim()
    .split('\n')
    .map((row) => row.split(','));
  const first = (kind: string) =>
    Math.min(...rows.filter(([one, , flags]) => one === kind && !flags?.includes('D')).map(([, time]) => Number(time)));
  return { picture: first('video'), sound: first('audio') };
}

const H264 = { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 30 } };
const COPY = { codec: 'copy' };

describe('a copied stream', () => {
  it.each([
    ['web.mp4', 'mp4', COPY, COPY],
    ['web.mp4', 'mov', COPY, COPY],
    ['web.mp4', 'matroska', COPY, COPY],
    ['open.mkv', 'webm', COPY, COPY],
    ['web.mp4', 'mp4', COPY, { codec: 'opus', kbps: 96 }],
    ['web.mp4', 'matroska', COPY, { codec: 'flac' }],
    ['web.mp4', 'mp4', COPY, null],
    ['web.mp4', 'mp4', H264, COPY],
    ['open.mkv', 'mp4', H264, COPY],
    ['web.mp4', 'mp4', { ...H264, rate: { mode: 'size', bytes: 60_000 } }, COPY],
    ['web.mp4', 'm4a', null, COPY],
  ])('of %s in %s is the master’s, packet for packet', async (name, container, video, audio) => {
    const fit = { picture: video === COPY ? {} : { fit: { height: 64 } } };
    const made = await makeRendition(engine, folder, inFolder(name), { container, video, audio, ...fit });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    if (video === COPY) expect(packetsOf(made.file, 'v')).toBe(packetsOf(inFolder(name), 'v'));
    if (audio === COPY) expect(packetsOf(made.file, 'a')).toBe(packetsOf(inFolder(name), 'a'));
  });

  it.each([
    ['copied beside encoded sound', COPY, { codec: 'opus', kbps: 96 }],
    ['encoded beside copied sound', H264, COPY],
  ])('stays in step where the picture begins late: %s', async (_name, video, audio) => {
    const made = await makeRendition(engine, folder, inFolder('late.mkv'), { container: 'mp4', video, audio });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    // What the master has of sound before its picture is left out.
    const { picture, sound } = startsOf(made.file);
    expect(Math.abs(sound - picture)).toBeLessThan(0.03);
  });
});

describe('the track that is asked for', () => {
  it('is the one that is encoded, and one that is not there is refused', async () => {
    const tones = [440, 880].flatMap((tone) => ['-f', 'lavfi', '-i', `sine=${tone}:r=48000:d=1`]);
    const master = draw(inFolder('two.mov'), [...tones, '-map', '0', '-map', '1', '-c:a', 'pcm_s16le']);
    const audio = { codec: 'pcm', channels: 'mono', tracks: [1] };
    const made = await makeRendition(engine, folder, master, { container: 'wav', video: null, audio });
    expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(Math.abs(risesOf(made.file) - 880)).toBeLessThanOrEqual(1);
    const beyond = { ...audio, tracks: [2] };
    await expect(
      makeRendition(engine, folder, master, { container: 'wav', video: null, audio: beyond }),
    ).rejects.toThrow('This programme has sound tracks 0 to 1; there is no track 2.');
  });
});

/** How often a tone of one second rises through zero: its frequency. */
function risesOf(file: string): number {
  const raw = execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-f', 's16le', '-ac', '1', '-']);
  const samples = new Int16Array(raw.buffer, raw.byteOffset, raw.length / 2);
  return samples.reduce((rises, one, index) => rises + (index > 0 && samples[index - 1]! < 0 && one >= 0 ? 1 : 0), 0);
}
