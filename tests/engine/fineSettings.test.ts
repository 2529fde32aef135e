import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { nameFormat, partsOf } from '../../src/core/picture/store.ts';
import { MASTER_CODECS, MASTERS, RATED, RATED_CODECS } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { engineFormat } from '../../src/engine/filters/store.ts';
import { draw, makeFolder } from '../support/footage.ts';
import { makeRendition } from '../support/encode.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const master = path.join(folder, 'master.mkv');
const clear = path.join(folder, 'clear.mov');

const tags = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'];

beforeAll(() => {
  // Two scenes, a second each.
  const scenes = 'testsrc2=s=160x90:r=25:d=1[a];mandelbrot=s=160x90:r=25,trim=end_frame=25[b];[a][b]concat=n=2:v=1';
  draw(master, ['-f', 'lavfi', '-i', scenes, '-pix_fmt', 'yuv444p10le', '-c:v', 'ffv1', ...tags]);
  // Half of it is transparent.
  const half =
    "testsrc2=s=160x90:r=25:d=0.4,format=yuva444p10le,geq=lum='lum(X,Y)':cb='cb(X,Y)':cr='cr(X,Y)':a='if(lt(X,80),0,1023)'";
  draw(clear, ['-f', 'lavfi', '-i', half, '-c:v', 'prores_ks', '-profile:v', '4444', ...tags]);
});

interface Probed {
  readonly stream: Readonly<Record<string, unknown>>;
  /** Of packets, in the order they lie. */
  readonly times: readonly number[];
  readonly keyframes: readonly number[];
}

function probe(file: string): Probed {
  const entries = 'stream=codec_name,pix_fmt,profile,level,has_b_frames,codec_tag_string:packet=pts_time,flags';
  const args = ['-v', 'error', '-select_streams', 'v:0', '-show_entries', entries, '-of', 'json', file];
  const { streams, packets } = JSON.parse(execFileSync('ffprobe', args, { encoding: 'utf8' })) as {
    streams: Record<string, unknown>[];
    packets: { pts_time: string; flags: string }[];
  };
  const times = packets.map((packet) => Math.round(Number(packet.pts_time) * 25));
  const keyframes = times.filter((_, index) => packets[index]!.flags.startsWith('K'));
  return { stream: streams[0]!, times: times.map((time) => time - Math.min(...times)), keyframes };
}

async function made(video: object, container = 'mp4') {
  const fit = { picture: {} };
  const result = await makeRendition(engine, folder, master, { container, video, audio: null, ...fit });
  expect(result.checks.filter(({ ok }) => !ok)).toEqual([]);
  return probe(result.file);
}

const PLAIN = { effort: 'fast', rate: { mode: 'quality', value: 30 } };

/** Every way a codec stores pixels. */
const STORED = RATED_CODECS.flatMap((codec) =>
  RATED[codec].formats.filter((format) => !partsOf(format).alpha).map((format) => ({ codec, format })),
);

const MASTERED = MASTER_CODECS.flatMap((codec) =>
  MASTERS[codec].flavours.flatMap(({ key: flavour, formats }) =>
    formats.filter((format) => !partsOf(format).alpha).map((format) => ({ codec, flavour, format })),
  ),
);

describe('how pixels are stored', () => {
  it.each(STORED)('$codec in $format', async ({ codec, format }) => {
    const { chroma, depth: bitDepth } = partsOf(format);
    const { stream } = await made({ codec, ...PLAIN, chroma, bitDepth }, RATED[codec].containers[0]);
    expect(stream['pix_fmt']).toBe(engineFormat(format));
  });

  it.each(MASTERED)('$codec $flavour in $format', async ({ codec, flavour, format }) => {
    const { chroma, depth: bitDepth } = partsOf(format);
    const { stream, keyframes, times } = await made({ codec, flavour, chroma, bitDepth }, MASTERS[codec].containers[0]);
    expect(stream['codec_name']).toBe(codec);
    // The reader of one flavour of ten bits always gives 12.
    const read = String(stream['pix_fmt']);
    expect(bitDepth === 10 ? read.replace('p12', 'p10') : read).toBe(engineFormat(format));
    expect(keyframes).toHaveLength(times.length);
  });

  it('is refused where the codec does not take it, naming what it takes', async () => {
    const video = { codec: 'av1', ...PLAIN, chroma: '4:2:2' };
    await expect(makeRendition(engine, folder, master, { video, audio: null })).rejects.toThrow(
      `AV1 takes ${nameFormat('420p8')} or ${nameFormat('420p10')}; 8 bits, 4:2:2 is not among them.`,
    );
  });
});

describe('transparency', () => {
  it('is kept by the mezzanine, to the pixel', async () => {
    const video = { codec: 'prores', flavour: '4444', chroma: '4:4:4', bitDepth: 10, alpha: true };
    const result = await makeRendition(engine, folder, clear, { container: 'mov', video, audio: null });
    expect(result.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(probe(result.file).stream['pix_fmt']).toMatch(/^yuva444p1[02]le$/);
    const alpha = execFileSync('ffmpeg', [
      ...['-v', 'error', '-i', result.file, '-vf', 'alphaextract,format=gray', '-frames:v', '1'],
      ...['-f', 'rawvideo', '-'],
    ]);
    expect([alpha[40], alpha[120]]).toEqual([0, 255]);
  });

  const VP9_CLEAR = { codec: 'vp9', ...PLAIN, alpha: true };

  /** Transparency of the first picture at two places, by the library that wrote it: other decoders leave it out. */
  const alphaOfVp9 = (file: string): number[] => {
    const args = ['-v', 'error', '-c:v', 'libvpx-vp9', '-i', file, '-vf', 'alphaextract,format=gray', '-frames:v', '1'];
    const alpha = execFileSync('ffmpeg', [...args, '-f', 'rawvideo', '-']);
    return [alpha[40]!, alpha[120]!];
  };

  it.each(RATED.vp9.transparentIn)('is kept by VP9 in %s, and once more of what it wrote', async (container) => {
    const first = await makeRendition(engine, folder, clear, { container, video: VP9_CLEAR, audio: null });
    expect(first.checks.filter(({ ok }) => !ok)).toEqual([]);
    const [hidden, shown] = alphaOfVp9(first.file);
    expect(hidden).toBeLessThan(4);
    expect(shown).toBeGreaterThan(251);
    const mezzanine = { codec: 'prores', flavour: '4444', chroma: '4:4:4', bitDepth: 10, alpha: true };
    const second = await makeRendition(engine, folder, first.file, { container: 'mov', video: mezzanine, audio: null });
    const args = ['-v', 'error', '-i', second.file, '-vf', 'alphaextract,format=gray', '-frames:v', '1'];
    const alpha = execFileSync('ffmpeg', [...args, '-f', 'rawvideo', '-']);
    expect(alpha[40]).toBeLessThan(4);
    expect(alpha[120]).toBeGreaterThan(251);
  });

  it.each([
    [
      { container: 'mp4', video: VP9_CLEAR },
      'MP4 does not carry the transparency of VP9; WebM or Matroska carries it.',
    ],
    [
      { container: 'webm', video: { ...VP9_CLEAR, rate: { mode: 'size', bytes: 100_000 } } },
      'Transparency is a second picture',
    ],
    [{ video: { codec: 'h264', ...PLAIN, alpha: true } }, '8 bits, 4:2:0 with transparency is not among them.'],
  ])('is refused where it cannot be: %o', async (recipe, sentence) => {
    await expect(makeRendition(engine, folder, clear, { ...recipe, audio: null })).rejects.toThrow(sentence);
  });
});

describe('flavours', () => {
  it.each([
    ['proxy', 'apco'],
    ['lt', 'apcs'],
    ['standard', 'apcn'],
    ['hq', 'apch'],
  ])('%s is marked %s (SMPTE RDD 36; codes from memory)', async (flavour, code) => {
    const { stream } = await made({ codec: 'prores', flavour }, 'mov');
    expect(stream['codec_tag_string']).toBe(code);
  });
});

describe('FFV1', () => {
  const FFV1 = ['-c:v', 'ffv1'];

  it.each([
    ['yuv444p10le', '160x90', 10, FFV1, { chroma: '4:4:4', bitDepth: 10 }],
    ['yuv422p12le', '160x90', 12, FFV1, { chroma: '4:2:2', bitDepth: 12 }],
    ['yuv444p12le', '160x90', 12, FFV1, { chroma: '4:4:4', bitDepth: 12 }],
    ['yuv420p14le', '160x90', 14, FFV1, { chroma: '4:2:0', bitDepth: 16 }],
    ['yuv444p16le', '160x90', 16, FFV1, { chroma: '4:4:4', bitDepth: 16 }],
    // Others need an even number of rows.
    ['yuv444p', '161x91', 8, FFV1, { chroma: '4:4:4', bitDepth: 8 }],
    ['yuv420p', '161x91', 8, FFV1, { chroma: '4:2:0', bitDepth: 8 }],
    // Its reader gives 12 bits.
    [
      'yuva444p10le',
      '160x90',
      10,
      ['-c:v', 'prores_ks', '-profile:v', '4444'],
      { chroma: '4:4:4', bitDepth: 16, alpha: true },
    ],
  ])('loses nothing of a master in %s, at %s', async (format, size, bits, encoding, stored) => {
    const deep = path.join(folder, `${format}.mkv`);
    // To the last bit, within what levels mean a colour.
    const noise = (seed: number) => `${2 ** (bits - 4)}+random(${seed})*${2 ** (bits - 1)}`;
    const picture = `nullsrc=s=${size}:r=25:d=0.4,format=${format},geq=lum='${noise(1)}':cb='${noise(2)}':cr='${noise(3)}'`;
    draw(deep, ['-f', 'lavfi', '-i', picture, ...encoding, ...tags]);
    const video = { codec: 'ffv1', ...stored };
    const result = await makeRendition(engine, folder, deep, { container: 'matroska', video, audio: null });
    expect(result.checks.filter(({ ok }) => !ok)).toEqual([]);
    const digest = (file: string) => {
      const args = [
        '-v',
        'error',
        '-i',
        file,
        '-pix_fmt',
        String(probe(deep).stream['pix_fmt']),
        '-f',
        'streamhash',
        '-',
      ];
      return execFileSync('ffmpeg', args, { encoding: 'utf8' });
    };
    expect(digest(result.file)).toBe(digest(deep));
  });
});

describe('what an expert asks for', () => {
  const h264 = { codec: 'h264', ...PLAIN };
  const hevc = { codec: 'hevc', ...PLAIN };

  it.each([
    ['baseline', 'Constrained Baseline'],
    ['main', 'Main'],
    ['high', 'High'],
  ])('profile %s', async (profile, name) => {
    const { stream } = await made({ ...h264, profile });
    expect(stream['profile']).toBe(name);
    expect(Number(stream['has_b_frames']) > 0).toBe(profile !== 'baseline');
  });

  it.each([
    ['h264', '3.1', 31],
    ['h264', '5.1', 51],
    ['hevc', '4.0', 120],
  ])('%s at level %s', async (codec, level, stored) => {
    expect((await made({ codec, ...PLAIN, level })).stream['level']).toBe(stored);
  });

  it('a level that the picture breaks is refused with the limit', async () => {
    const video = { ...h264, rate: { mode: 'average', kbps: 4000, passes: 1 }, level: '2.0' };
    await expect(makeRendition(engine, folder, master, { video, audio: null })).rejects.toThrow(
      'Level 2.0 takes 2,500 kb/s; this picture may come to 4,000. Take 2.1, or let it be chosen.',
    );
  });

  it.each(['h264', 'hevc'])('%s without reordering stores every frame in its order', async (codec) => {
    const { times, stream } = await made({ codec, ...PLAIN, reordering: false });
    expect(times).toEqual(Array.from({ length: 50 }, (_, frame) => frame));
    expect(stream['has_b_frames']).toBe(0);
    expect((await made({ codec, ...PLAIN, reordering: true })).times).not.toEqual(times);
  });

  it.each([
    ['h264', { frames: 10 }, 5],
    ['h264', { seconds: 1 }, 2],
    ['hevc', { frames: 10 }, 5],
    ['vp9', { frames: 10 }, 5],
    ['av1', { frames: 10 }, 5],
  ])('%s has keyframes %o apart', async (codec, keyframes, least) => {
    const made_ = await made({ codec, ...PLAIN, keyframes });
    expect(made_.keyframes.length).toBeGreaterThanOrEqual(least);
    const gaps = made_.keyframes.slice(1).map((frame, index) => frame - made_.keyframes[index]!);
    expect(Math.max(...gaps)).toBeLessThanOrEqual('frames' in keyframes ? keyframes.frames! : 25);
  });

  it('a new scene begins with a keyframe, unless that is not wanted', async () => {
    const [with_, without] = [await made(h264), await made({ ...h264, keyframesAtScenes: false })];
    expect(with_.keyframes).toContain(25);
    expect(without.keyframes).toEqual([0]);
    const [other, plain] = [await made(hevc), await made({ ...hevc, keyframesAtScenes: false })];
    expect(other.keyframes).toContain(25);
    expect(plain.keyframes).toEqual([0]);
  });

  it.each([
    ['h264', 'grain'],
    ['h264', 'drawn'],
    ['h264', 'still'],
    ['hevc', 'grain'],
    ['hevc', 'drawn'],
    ['vp9', 'film'],
  ])('%s tuned for %s opens and is another file', async (codec, tune) => {
    const container = RATED[codec as 'h264'].containers[0];
    const rendition = (video: object) => makeRendition(engine, folder, master, { container, video, audio: null });
    const [plain, tuned] = [await rendition({ codec, ...PLAIN }), await rendition({ codec, ...PLAIN, tune })];
    expect(tuned.checks.filter(({ ok }) => !ok)).toEqual([]);
    expect(packetDigest(tuned.file)).not.toBe(packetDigest(plain.file));
  });

  it.each([
    ['tune', { codec: 'av1', ...PLAIN, tune: 'film' }],
    ['profile', { codec: 'hevc', ...PLAIN, profile: 'main' }],
    ['level', { codec: 'vp9', ...PLAIN, level: '4' }],
    ['reordering', { codec: 'av1', ...PLAIN, reordering: false }],
  ])('%s is refused where the encoder takes none', async (_field, video) => {
    await expect(makeRendition(engine, folder, master, { container: 'matroska', video, audio: null })).rejects.toThrow(
      /encoder takes no .*; leave it to the encoder/,
    );
  });
});

function packetDigest(file: string): string {
  return execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-c', 'copy', '-f', 'md5', '-'], { encoding: 'utf8' });
}
