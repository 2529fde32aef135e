import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { FLIPS, TURNS, type Flip, type Turn } from '../../src/core/geometry/preparation.ts';
import { fromRgb, readColour, weightsOf } from '../../src/core/picture/lumaChroma.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition, type Made } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
let master = '';
let varying = '';
let tape = '';

const HD = ['-colorspace', 'bt709', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-color_range', 'tv'];

/** A quarter each of red, green, blue and white, as one reads. */
const QUARTERS =
  "nullsrc=s=160x90:r=25:d=0.4,format=gbrp,geq=r='if(eq(lt(X,80),lt(Y,45)),255,0)*1':g='if(gte(X,80),255,0)':b='if(gte(Y,45),255,0)'";

beforeAll(() => {
  const stored = ['-vf', 'scale=out_color_matrix=bt709:out_range=tv,format=yuv420p', ...HD];
  master = draw(path.join(folder, 'quarters.mkv'), ['-f', 'lavfi', '-i', QUARTERS, ...stored, '-c:v', 'ffv1']);
  varying = draw(path.join(folder, 'varying.mkv'), [
    ...['-f', 'lavfi', '-i', "testsrc2=s=160x90:r=25:d=0.8,settb=1/1000,setpts='(N+3*gte(N,5)+2*gte(N,12))*40'"],
    ...['-fps_mode', 'passthrough', '-pix_fmt', 'yuv420p', '-c:v', 'ffv1', ...HD],
  ]);
  tape = draw(path.join(folder, 'tape.mov'), [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=180x144:r=25:d=0.4', '-vf', 'setsar=64/45'],
    ...['-c:v', 'libx264', '-preset', 'ultrafast', '-pix_fmt', 'yuv420p', '-colorspace', 'smpte170m'],
  ]);
});

const LOSSLESS = { codec: 'ffv1' };
const LOSSY = { codec: 'h264', effort: 'fast', rate: { mode: 'quality', value: 12 } };

async function make(picture: object, video: object = LOSSLESS, source = master) {
  const container = 'codec' in video && video.codec === 'h264' ? 'mp4' : 'matroska';
  const made = await makeRendition(engine, folder, source, { container, video, picture, audio: null });
  expect(made.checks.filter(({ ok }) => !ok)).toEqual([]);
  return made;
}

/** The mean over all frames. */
function ssimOf({ compared }: Pick<Made, 'compared'>): number {
  return compared!.reduce((sum, { ssimAll }) => sum + ssimAll, 0) / compared!.length;
}

/** Red, green or blue, white, or black at so many shares of the width and the height. */
function seen(file: string, width: number, height: number, places: readonly (readonly [number, number])[]): string {
  const args = ['-v', 'error', '-i', file, '-vf', 'scale=in_color_matrix=bt709,format=rgb24', '-frames:v', '1'];
  const pixels = execFileSync('ffmpeg', [...args, '-f', 'rawvideo', '-']);
  expect(pixels).toHaveLength(width * height * 3);
  return places
    .map(([x, y]) => {
      const at = 3 * (Math.floor(y * height) * width + Math.floor(x * width));
      const bright = [0, 1, 2].map((part) => (pixels[at + part]! > 128 ? 'rgb'[part] : '')).join('');
      return ({ rgb: 'w', '': 'k' } as Record<string, string>)[bright] ?? bright;
    })
    .join('');
}

const CORNERS = [
  [0.2, 0.2],
  [0.8, 0.2],
  [0.2, 0.8],
  [0.8, 0.8],
] as const;

/** What stands in the corners, as one reads, by hand: first turned clockwise, then mirrored. */
const EXPECTED: Readonly<Record<Turn, Readonly<Record<Flip | 'none', string>>>> = {
  0: { none: 'rgbw', horizontal: 'grwb', vertical: 'bwrg' },
  90: { none: 'brwg', horizontal: 'rbgw', vertical: 'wgbr' },
  180: { none: 'wbgr', horizontal: 'bwrg', vertical: 'grwb' },
  270: { none: 'gwrb', horizontal: 'wgbr', vertical: 'rbgw' },
};

describe('a picture that is turned and mirrored', () => {
  const WAYS = TURNS.flatMap((rotate) => [null, ...FLIPS].map((flip) => ({ rotate, flip })));

  it.each(WAYS)('by $rotate°, $flip', async ({ rotate, flip }) => {
    const { file, plan } = await make({ rotate, flip });
    const [width, height] = rotate % 180 === 0 ? [160, 90] : [90, 160];
    expect(plan.streams[0]).toMatchObject({ out: { size: { width, height } }, comparedAt: { width, height } });
    expect(seen(file, width, height, CORNERS)).toBe(EXPECTED[rotate][flip ?? 'none']);
  });

  it('is compared with its master turned likewise, after it was cropped', async () => {
    const { compared, file } = await make({ crop: { top: 10, bottom: 0, left: 0, right: 20 }, rotate: 90 }, LOSSY);
    expect(seen(file, 80, 140, CORNERS)).toBe('brwg');
    expect(ssimOf({ compared })).toBeGreaterThan(0.97);
  });

  it('keeps its shape where its pixels are not square', async () => {
    // 180 of 64:45 are 256 square ones.
    const { plan } = await make({ rotate: 270, fit: { height: 128 } }, LOSSY, tape);
    expect(plan.streams[0]).toMatchObject({ out: { size: { width: 72, height: 128 } } });
    const kept = await make({ rotate: 90, pixelAspect: 'source' }, LOSSY, tape);
    expect(kept.plan.streams[0]).toMatchObject({
      out: { size: { width: 144, height: 180 }, pixelAspect: { num: 45, den: 64 } },
    });
  });
});

describe('a frame that is filled', () => {
  it('has exactly its size, and what stands out is cut off from the middle outwards', async () => {
    const { file, plan, compared } = await make({ fill: { width: 90, height: 160 } }, LOSSY);
    // 90 × 9 / 16 are 50.6 columns, of which an even number is cut off.
    expect(plan.streams[0]).toMatchObject({ out: { size: { width: 90, height: 160 } }, comparedAt: { width: 50 } });
    expect(seen(file, 90, 160, CORNERS)).toBe('rgbw');
    expect(ssimOf({ compared })).toBeGreaterThan(0.97);
    const wide = await make({ fill: { width: 160, height: 40 } }, LOSSY);
    expect(wide.plan.streams[0]).toMatchObject({ comparedAt: { width: 160, height: 40 } });
  });

  it('takes what the crop leaves, turned', async () => {
    // Of the right half, turned, a square: blue and red lie left of the cut.
    const crop = { top: 0, bottom: 0, left: 80, right: 0 };
    const { file, plan } = await make({ crop, rotate: 90, fill: { width: 80, height: 80 } });
    expect(plan.streams[0]).toMatchObject({ comparedAt: { width: 80, height: 80 } });
    expect(seen(file, 80, 80, CORNERS)).toBe('wgwg');
  });
});

const PADDED = { width: 160, height: 160 };

/** A value of what lies above the picture, as it is stored, by the engine's own measure. */
function storedAt(file: string, name: string): number {
  const args = ['-v', 'error', '-i', file, '-vf', 'crop=16:16:72:0,signalstats,metadata=print:file=-'];
  const said = execFileSync('ffmpeg', [...args, '-f', 'null', '-'], { encoding: 'utf8' });
  return Number(new RegExp(`signalstats.${name}=(\\S+)`).exec(said)![1]);
}

describe('a picture that stands whole in a frame', () => {
  it('has bars above and below, or at both sides, on even pixels', async () => {
    const { file } = await make({ pad: PADDED });
    expect(
      seen(file, 160, 160, [[0.5, 0.05], ...CORNERS.map(([x, y]) => [x, 0.3 + y * 0.4] as const), [0.5, 0.95]]),
    ).toBe('krgbwk');
    const across = await make({ pad: { width: 320, height: 90 } });
    expect(
      seen(across.file, 320, 90, [
        [0.1, 0.5],
        [0.4, 0.2],
        [0.6, 0.2],
        [0.9, 0.5],
      ]),
    ).toBe('krgk');
  });

  const STORED = [
    { chroma: '4:2:0', bitDepth: 8 },
    { chroma: '4:2:2', bitDepth: 10 },
    { chroma: '4:4:4', bitDepth: 8 },
    { chroma: '4:4:4', bitDepth: 10 },
  ];

  it.each(STORED)('and their colour is stored to the value in $bitDepth bits, $chroma', async (stored) => {
    const { file } = await make({ pad: { ...PADDED, with: '#C02060' } }, { ...LOSSLESS, ...stored });
    // By the equations of ITU-T H.273 for the matrix of HD.
    const { y, cb, cr } = fromRgb(readColour('#c02060'), weightsOf('bt709'));
    const scale = 2 ** (stored.bitDepth - 8);
    for (const [plane, value] of [
      ['Y', y],
      ['U', cb],
      ['V', cr],
    ] as const) {
      expect([storedAt(file, `${plane}MIN`), storedAt(file, `${plane}MAX`)], plane).toEqual(
        Array(2).fill(Math.round(value * scale)),
      );
    }
  });

  it('and white is no brighter than paper in high dynamic range', async () => {
    const tags = ['-colorspace', 'bt2020nc', '-color_primaries', 'bt2020', '-color_trc', 'smpte2084'];
    const bright = draw(path.join(folder, 'bright.mkv'), [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=0.4', '-pix_fmt', 'yuv420p10le', '-c:v', 'ffv1', ...tags],
    ]);
    const { file } = await make({ pad: { ...PADDED, with: '#ffffff' } }, { ...LOSSLESS, bitDepth: 10 }, bright);
    // 203 cd/m² are 58 % of PQ (ITU-R BT.2408, table 1): 64 + 876 × 0.581.
    expect(storedAt(file, 'YMIN')).toBeGreaterThan(64 + 876 * 0.575);
    expect(storedAt(file, 'YMAX')).toBeLessThan(64 + 876 * 0.585);
  });

  it('or itself beside it, out of focus', async () => {
    const { file } = await make({ pad: { width: 320, height: 90, with: 'blur' } });
    expect(
      seen(file, 320, 90, [
        [0.05, 0.1],
        [0.95, 0.1],
        [0.4, 0.2],
        [0.6, 0.8],
        [0.05, 0.9],
      ]),
    ).toBe('rgrwb');
    const upright = await make({ pad: { width: 90, height: 160, with: 'blur' } }, LOSSY);
    expect(
      seen(upright.file, 90, 160, [
        [0.2, 0.02],
        [0.8, 0.98],
        [0.2, 0.45],
      ]),
    ).toBe('rwr');
  });

  it('is compared without them, so that its numbers are the picture’s own', async () => {
    const [plain, padded] = [await make({}, LOSSY, varying), await make({ pad: PADDED }, LOSSY, varying)];
    expect(padded.plan.streams[0]).toMatchObject({ comparedAt: { width: 160, height: 90 } });
    // 90 lines do not lie on even ones in 160; they are scaled by nothing, and coded alike.
    expect(Math.abs(ssimOf(padded) - ssimOf(plain))).toBeLessThan(0.01);
    expect(ssimOf(padded)).toBeGreaterThan(0.95);
    expect(padded.plan.streams[0]).toMatchObject({ out: { frameCount: 20, constantRate: false } });
  });

  it('comes without any where it has the frame’s own shape, and enlarged where the frame is larger', async () => {
    const { plan } = await make({ pad: { width: 320, height: 180 } });
    expect(plan.streams[0]).toMatchObject({ out: { size: { width: 320, height: 180 } } });
    expect(JSON.stringify(plan)).not.toContain('"step":"pad"');
  });
});
