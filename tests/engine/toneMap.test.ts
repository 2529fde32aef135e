import { execFileSync } from 'node:child_process';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { pictureOf } from '../../src/core/plan/encodePlan.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();

type Triple = readonly [number, number, number];
const each = ([r, g, b]: Triple, change: (value: number) => number): Triple => [change(r), change(g), change(b)];

/** SMPTE ST 2084, ITU-R BT.2100 table 4 (from memory): the signal of so many cd/m². */
function pqOf(nits: number): number {
  const [m1, m2, c1, c2, c3] = [0.1593017578125, 78.84375, 0.8359375, 18.8515625, 18.6875];
  const power = (nits / 10_000) ** m1;
  return ((c1 + c2 * power) / (1 + c3 * power)) ** m2;
}

/** ARIB STD-B67, ITU-R BT.2100 table 5 (from memory): what a signal of grey shows on a display of 1,000 cd/m², system gamma 1.2. */
function nitsOfHlg(signal: number): number {
  const [a, b, c] = [0.17883277, 0.28466892, 0.55991073];
  const scene = signal <= 0.5 ? signal ** 2 / 3 : (Math.exp((signal - c) / a) + b) / 12;
  return 1000 * scene ** 1.2;
}

/** Linear light of BT.2020 in the primaries of BT.709 (ITU-R BT.2087, from memory). */
function inHd([r, g, b]: Triple): Triple {
  return [
    1.6605 * r - 0.5876 * g - 0.0728 * b,
    -0.1246 * r + 1.1329 * g - 0.0083 * b,
    -0.0182 * r - 0.1006 * g + 1.1187 * b,
  ];
}

/** The inverse of `pqOf`. */
function nitsOfPq(signal: number): number {
  const [m1, m2, c1, c2, c3] = [0.1593017578125, 78.84375, 0.8359375, 18.8515625, 18.6875];
  const power = signal ** (1 / m2);
  return 10_000 * (Math.max(0, power - c1) / (c2 - c3 * power)) ** (1 / m1);
}

/** ITU-R BT.2390 (section 5.4, from memory), without lifting black: what is left of light on a display of so many cd/m². */
function bend(nits: number, peak: number, display: number): number {
  const [signal, most] = [Math.min(1, pqOf(nits) / pqOf(peak)), pqOf(display) / pqOf(peak)];
  const knee = 1.5 * most - 0.5;
  if (signal < knee) return nits;
  const t = (signal - knee) / (1 - knee);
  const bent =
    (2 * t ** 3 - 3 * t ** 2 + 1) * knee + (t ** 3 - 2 * t ** 2 + t) * (1 - knee) + (-2 * t ** 3 + 3 * t ** 2) * most;
  return nitsOfPq(bent * pqOf(peak));
}

/** White paper, in cd/m² (ITU-R BT.2408). */
const PAPER = 203;

/** 8-bit RGB of light in cd/m² of BT.2020, on a display of BT.709 and BT.1886. */
function shown(nits: Triple, peak: number): Triple {
  const bent = inHd(each(nits, (one) => bend(one, peak, PAPER) / PAPER));
  return each(bent, (one) => 255 * Math.min(1, Math.max(0, one)) ** (1 / 2.4));
}

/** Ten bits of luma and colour differences, by the matrix of BT.2020 (ITU-R BT.2100 tables 6 and 9). */
function coded([r, g, b]: Triple): Triple {
  const y = 0.2627 * r + 0.678 * g + 0.0593 * b;
  return [64 + 876 * y, 512 + (896 * (b - y)) / 1.8814, 512 + (896 * (r - y)) / 1.4746].map(
    Math.round,
  ) as unknown as Triple;
}

const SIDE = 32;

/** A master of plain patches, side by side; each is given by its signal. */
function drawPatches(name: string, transfer: string, signals: readonly Triple[], range: 'tv' | 'pc' = 'tv'): string {
  const codes = signals.map(coded);
  const of = (plane: 0 | 1 | 2) => codes.map((code, index) => `${code[plane]}*eq(floor(X/${SIDE}),${index})`).join('+');
  const size = `${SIDE * signals.length}x${SIDE * 2}`;
  const limited = `color=s=${size}:r=25:d=0.4,format=yuv444p10le,geq=lum='${of(0)}':cb='${of(1)}':cr='${of(2)}'`;
  const full = `,scale=in_range=tv:out_range=pc:in_color_matrix=bt2020:out_color_matrix=bt2020,format=yuv444p10le`;
  return draw(path.join(folder, name), [
    ...['-f', 'lavfi', '-i', `${limited}${range === 'pc' ? full : ''}`],
    ...['-c:v', 'ffv1', '-color_range', range],
    ...['-color_primaries', 'bt2020', '-color_trc', transfer, '-colorspace', 'bt2020nc'],
  ]);
}

/** The middle of each patch of a file's first frame, as 8-bit RGB. */
function patchesOf(file: string, count: number): Triple[] {
  const filter = 'scale=in_color_matrix=bt709:in_range=tv:out_range=pc:flags=accurate_rnd+full_chroma_int,format=rgb24';
  const args = ['-v', 'error', '-i', file, '-vf', filter, '-frames:v', '1', '-f', 'rawvideo', '-'];
  const pixels = execFileSync('ffmpeg', args);
  const width = SIDE * count;
  return Array.from({ length: count }, (_, index) => {
    const at = 3 * (width * SIDE + SIDE * index + SIDE / 2);
    return [pixels[at]!, pixels[at + 1]!, pixels[at + 2]!];
  });
}

const RECIPE = {
  container: 'matroska',
  video: { codec: 'ffv1', flavour: 'lossless', chroma: '4:4:4', bitDepth: 10 },
  picture: { dynamicRange: 'standard' },
  audio: null,
};

const GREYS = [0.1, 5, 26, 60, PAPER, 400, 1000, 4000];
const COLOURS: readonly Triple[] = [
  [60, 40, 30],
  [20, 60, 25],
  [300, 200, 120],
  [30, 40, 200],
  // Far beyond what the master tells of: an orange stays one.
  [3900, 330, 60],
];

describe('standard range', () => {
  it.each(['tv', 'pc'] as const)(
    'is what the formulas say of perceptually quantised light in range %s',
    async (range) => {
      const lights = [...GREYS.map((grey): Triple => [grey, grey, grey]), ...COLOURS];
      const master = drawPatches(
        `pq-${range}.mkv`,
        'smpte2084',
        lights.map((light) => each(light, pqOf)),
        range,
      );
      const { file, plan, checks } = await makeRendition(engine, folder, master, RECIPE);
      expect(pictureOf(plan)!.out.colour).toEqual({ primaries: 'bt709', transfer: 'bt709', matrix: 'bt709' });
      expect(checks.filter(({ ok }) => !ok)).toEqual([]);
      const found = patchesOf(file, lights.length);
      for (const [index, light] of lights.entries()) {
        const expected = shown(light, 1000);
        for (const channel of [0, 1, 2] as const) {
          // Two of 255 steps for coding in ten bits and back.
          expect(Math.abs(found[index]![channel] - expected[channel])).toBeLessThanOrEqual(2);
        }
      }
    },
  );

  it('keeps what is transparent', async () => {
    const master = draw(path.join(folder, 'clear.mkv'), [
      ...['-f', 'lavfi', '-i', `color=s=${4 * SIDE}x${2 * SIDE}:r=25:d=0.2,format=yuva444p10le`],
      ...['-vf', `geq=lum=${coded([0.5, 0.5, 0.5])[0]}:cb=512:cr=512:a='341*floor(X/${SIDE})'`],
      ...['-c:v', 'ffv1', '-color_primaries', 'bt2020', '-color_trc', 'smpte2084', '-colorspace', 'bt2020nc'],
    ]);
    const video = { ...RECIPE.video, alpha: true };
    const { file, checks } = await makeRendition(engine, folder, master, { ...RECIPE, video });
    expect(checks.filter(({ ok }) => !ok)).toEqual([]);
    const filter = `alphaextract,format=gray,crop=iw:1:0:${SIDE}`;
    const args = ['-v', 'error', '-i', file, '-vf', filter, '-frames:v', '1', '-f', 'rawvideo', '-'];
    const row = execFileSync('ffmpeg', args);
    const nits = nitsOfPq(0.5);
    for (const patch of [0, 1, 2, 3]) {
      expect(Math.abs(row[SIDE * patch + SIDE / 2]! - 85 * patch)).toBeLessThanOrEqual(1);
      expect(Math.abs(patchesOf(file, 4)[patch]![1] - shown([nits, nits, nits], 1000)[1])).toBeLessThanOrEqual(2);
    }
  });

  it('is what the formulas say of hybrid log-gamma', async () => {
    const signals = [0.05, 0.2, 0.38, 0.5, 0.75, 0.9, 1];
    const master = drawPatches(
      'hlg.mkv',
      'arib-std-b67',
      signals.map((one): Triple => [one, one, one]),
    );
    const { file, checks } = await makeRendition(engine, folder, master, RECIPE);
    expect(checks.filter(({ ok }) => !ok)).toEqual([]);
    const found = patchesOf(file, signals.length);
    for (const [index, signal] of signals.entries()) {
      const nits = nitsOfHlg(signal);
      expect(Math.abs(found[index]![1] - shown([nits, nits, nits], 1000)[1])).toBeLessThanOrEqual(2);
    }
  });
});
